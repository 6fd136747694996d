const key = 'vast-surge.sound';

export const isSoundOn = (): boolean => localStorage.getItem(key) !== 'off';
export const setSound = (on: boolean): void => {
  localStorage.setItem(key, on ? 'on' : 'off');
  if (!on && 'speechSynthesis' in globalThis) speechSynthesis.cancel();
};

let context: AudioContext | null = null;

/** A short tone; nothing where sound is off or the browser gives none. */
export function beep(hertz: number, seconds = 0.12): void {
  if (!isSoundOn()) return;
  try {
    context ??= new AudioContext();
    const [tone, gain] = [context.createOscillator(), context.createGain()];
    const at = context.currentTime;
    tone.frequency.value = hertz;
    gain.gain.setValueAtTime(0.25, at);
    gain.gain.exponentialRampToValueAtTime(0.001, at + seconds);
    tone.connect(gain).connect(context.destination);
    tone.start(at);
    tone.stop(at + seconds);
  } catch {
    // A count that is not heard is still seen.
  }
}

const spoken: Readonly<Record<string, string>> = {
  V: 'volts',
  mV: 'millivolts',
  µV: 'microvolts',
  kV: 'kilovolts',
  MV: 'megavolts',
  s: 'seconds',
  ms: 'milliseconds',
  min: 'minutes',
  h: 'hours',
};

/** A text with its units as they are said: `7.70 kV` as “7.70 kilovolts”. */
export const asSaid = (text: string): string =>
  text
    .replace(/-(?=\d)/g, 'minus ')
    .replace(/(\d)\s?([mkMµ]?V|ms|s|min|h)(?![\p{L}])/gu, (whole, digit: string, unit: string) =>
      spoken[unit] === undefined ? whole : `${digit} ${spoken[unit]}`,
    );

/** Two tones for what is wrong, one for the rest: heard where no voice is. */
const tones = (isBad: boolean): void => {
  beep(isBad ? 440 : 880, isBad ? 0.35 : 0.15);
  if (isBad) setTimeout(() => beep(330, 0.5), 380);
};

/** Says a sentence aloud, by the voice of the browser, or as a tone where it has none. What was being said gives way to what is wrong. */
export function say(text: string, isBad = false): void {
  if (!isSoundOn()) return;
  if (!('speechSynthesis' in globalThis) || speechSynthesis.getVoices().length === 0) return tones(isBad);
  if (isBad) speechSynthesis.cancel();
  const words = new SpeechSynthesisUtterance(asSaid(text));
  words.lang = 'en-GB';
  speechSynthesis.speak(words);
}
