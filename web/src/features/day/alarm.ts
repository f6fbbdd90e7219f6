/**
 * An alarm at the end of a wait. It is set on the clock of the sound itself, which runs on while another page is in front;
 * a timer of a page behind another is let go once a minute or not at all.
 */
import { officeMs } from "../../device/time.ts";

const KEY = "yoshi:alarm";
const TIMES = 12;
const EVERY_S = 4;
const HERTZ = [660, 880, 660];
const LASTS_S = 0.3;

let context: AudioContext | null = null;
const set = new Map<string, OscillatorNode[]>();

export const hasSound = (): boolean => typeof AudioContext !== "undefined";
export const alarmIsOn = (): boolean => localStorage.getItem(KEY) === "on";

/** On or off; a browser lets a page sound only after a press, and this is one. */
export function turnAlarm(on: boolean): void {
  localStorage.setItem(KEY, on ? "on" : "off");
  if (!on) silence();
  else ring(ready(), 0, 1, 0.12); // so that it is known how loud it is
}

function ready(): AudioContext {
  context ??= new AudioContext();
  if (context.state === "suspended") {
    void context.resume();
    document.addEventListener("pointerdown", () => void context?.resume(), { once: true });
  }
  return context;
}

/** Sound at the end of these waits, and of no others; `at` in milliseconds as the clock has it. */
export function arm(waits: { id: string; at: number }[]): void {
  if (!hasSound() || !alarmIsOn()) {
    silence();
    return;
  }
  const wanted = new Map(waits.map(({ id, at }) => [`${id} ${at}`, at]));
  for (const [id, voices] of set) {
    if (wanted.has(id)) continue;
    for (const voice of voices) voice.stop();
    set.delete(id);
  }
  for (const [id, at] of wanted) {
    const inS = (at - officeMs()) / 1000;
    if (!set.has(id) && inS > 0) set.set(id, ring(ready(), inS, TIMES, 0.5));
  }
}

/** What sounds or is to sound is silent. */
export function silence(): void {
  for (const voices of set.values()) for (const voice of voices) voice.stop();
  set.clear();
}

function ring(sound: AudioContext, inS: number, times: number, loud: number): OscillatorNode[] {
  const voices: OscillatorNode[] = [];
  for (let n = 0; n < times; n++)
    for (const [m, hertz] of HERTZ.entries()) {
      const begins = sound.currentTime + inS + n * EVERY_S + m * LASTS_S;
      const voice = sound.createOscillator();
      const volume = sound.createGain();
      voice.frequency.value = hertz;
      volume.gain.setValueAtTime(loud, begins);
      volume.gain.exponentialRampToValueAtTime(0.001, begins + LASTS_S);
      voice.connect(volume).connect(sound.destination);
      voice.start(begins);
      voice.stop(begins + LASTS_S);
      voices.push(voice);
    }
  return voices;
}
