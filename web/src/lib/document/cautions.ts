/** Cautions stand beside the step that they belong to; they defer to local codes and licensed practice. */
export const ROUTE_CAUTIONS = [
  { id: "fill", text: "Fill and leak-test with the electronics off and the mains plug out; only the pump is powered." },
  { id: "pump", text: "Never run the pump dry or against a closed end: look at couplings and reservoir first." },
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
  { id: "pump", text: "Before loading, check that the coolant is moving: a dry or dead-ended pump cooks the machine." },
];
