/** Cautions stand beside the step that they belong to; they defer to local codes and licensed practice. */
export const ROUTE_CAUTIONS = [
  { id: "fill", text: "Fill and leak-test with the electronics off and the mains plug out; only the pump is powered." },
  { id: "pump", text: "A pump never runs dry and never against a closed end: look at couplings and reservoir first." },
  {
    id: "coolant",
    text: "Glycol and biocides are toxic: away from children, animals and drains; local rules govern disposal.",
  },
];
export const BENCH_CAUTIONS = [
  { id: "hot", text: "Surfaces get hot under load: let them cool before you touch pads, sinks or the supply." },
  {
    id: "mains",
    text: "Inside supplies there is mains voltage, and capacitors stay charged: qualified people only, under the local electrical code.",
  },
  { id: "pump", text: "Before the first load see the coolant move: a dry or dead-ended pump cooks the machine." },
];
