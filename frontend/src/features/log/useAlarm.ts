import { useEffect, useState } from "react";

const BEEP_S = 0.35;

/** Three short tones, made here: nothing is fetched. */
function sound() {
  const audio = new AudioContext();
  for (let tone = 0; tone < 3; tone += 1) {
    const from = audio.currentTime + tone * 2 * BEEP_S;
    const wave = audio.createOscillator();
    wave.frequency.value = 880;
    wave.connect(audio.destination);
    wave.start(from);
    wave.stop(from + BEEP_S);
  }
  setTimeout(() => void audio.close(), 4000);
}

/** Sounds once for each new alarm, shows it in the title of the page, and as a notification where allowed. */
export function useAlarm(alarms: string[]) {
  const [on, setOn] = useState(false);
  const first = alarms[0] ?? "";
  useEffect(() => {
    if (!first) return;
    const before = document.title;
    document.title = `! ${first}`;
    return () => {
      document.title = before;
    };
  }, [first]);
  useEffect(() => {
    if (!first || !on) return;
    sound();
    if ("Notification" in window && Notification.permission === "granted") new Notification(first);
  }, [first, on]);
  /** Browsers sound only after someone has pressed something. */
  const arm = async () => {
    setOn(true);
    if ("Notification" in window && Notification.permission === "default")
      await Notification.requestPermission();
  };
  return { on, arm };
}
