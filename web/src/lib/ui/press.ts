/** Enter and the space bar press what is drawn as a button, as they press a real one. */
export const onPress = (act: () => void) => (event: KeyboardEvent) => {
  if (event.key !== "Enter" && event.key !== " ") return;
  event.preventDefault();
  act();
};
