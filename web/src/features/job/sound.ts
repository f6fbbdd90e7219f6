/** Short tones before a mark: one to slow down or be ready, two to close, low ones where something is wrong. */
import type { Following } from "../../job/live.ts";

const TONES: Partial<Record<Following["state"], [hertz: number, times: number]>> = {
  near: [660, 1],
  close_now: [990, 2],
  past: [990, 3],
  stalled: [330, 1],
  jumped: [220, 2],
  gone: [220, 3],
};
const LASTS_S = 0.16;
let context: AudioContext | null = null;

/** Plays a state's tone; a browser that may not play sound stays silent. */
export function sound(state: Following["state"]): void {
  const tone = TONES[state];
  if (!tone || typeof AudioContext === "undefined") return;
  context ??= new AudioContext();
  const [hertz, times] = tone;
  for (let n = 0; n < times; n++) {
    const begins = context.currentTime + n * 2 * LASTS_S;
    const voice = context.createOscillator();
    const volume = context.createGain();
    voice.frequency.value = hertz;
    volume.gain.setValueAtTime(0.25, begins);
    volume.gain.exponentialRampToValueAtTime(0.001, begins + LASTS_S);
    voice.connect(volume).connect(context.destination);
    voice.start(begins);
    voice.stop(begins + LASTS_S);
  }
}
