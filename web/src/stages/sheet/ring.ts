/** Three soft beeps and, where it is allowed, a message of the browser. */
export function ring(what: string): void {
  try {
    const audio = new AudioContext();
    for (const at of [0, 0.4, 0.8]) {
      const tone = audio.createOscillator();
      const gain = audio.createGain();
      tone.frequency.value = 880;
      gain.gain.setValueAtTime(0.15, audio.currentTime + at);
      gain.gain.exponentialRampToValueAtTime(0.001, audio.currentTime + at + 0.25);
      tone.connect(gain).connect(audio.destination);
      tone.start(audio.currentTime + at);
      tone.stop(audio.currentTime + at + 0.25);
    }
  } catch {
    // a browser without sound shows it all the same
  }
  if (typeof Notification !== "undefined" && Notification.permission === "granted")
    new Notification("Krill", { body: `${what} is over` });
}
