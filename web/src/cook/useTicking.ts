/** What a page at the stove keeps going: a tick for countdowns, the screen awake, a sound when something is up. */
import { useEffect, useState } from "react";

/** The page's steady clock [ms], anew twice a second. */
export function useTicking(): number {
  const [now, setNow] = useState(() => performance.now());
  useEffect(() => {
    const ticking = setInterval(() => setNow(performance.now()), 500);
    return () => clearInterval(ticking);
  }, []);
  return now;
}

/** Keeps the screen awake while the page is open, where the browser can. */
export function useAwake(wanted: boolean) {
  useEffect(() => {
    if (!wanted || !("wakeLock" in navigator)) return;
    let lock: WakeLockSentinel | null = null;
    const hold = () => {
      if (document.visibilityState !== "visible") return;
      navigator.wakeLock.request("screen").then(
        (got) => (lock = got),
        () => undefined, // a browser that refuses keeps its own mind
      );
    };
    hold();
    document.addEventListener("visibilitychange", hold);
    return () => {
      document.removeEventListener("visibilitychange", hold);
      void lock?.release();
    };
  }, [wanted]);
}

/** Sounds once whenever something new is up. */
export function useSound(up: string) {
  useEffect(() => {
    if (up && "AudioContext" in window) beep();
  }, [up]);
}

function beep() {
  try {
    const audio = new AudioContext();
    const tone = audio.createOscillator();
    const loud = audio.createGain();
    tone.frequency.value = 880;
    loud.gain.setValueAtTime(0.2, audio.currentTime);
    loud.gain.exponentialRampToValueAtTime(0.001, audio.currentTime + 0.8);
    tone.connect(loud).connect(audio.destination);
    tone.start();
    tone.stop(audio.currentTime + 0.8);
    tone.onended = () => void audio.close();
  } catch {
    // no sound where there is none
  }
}
