const key = 'vast-surge.sound';

export const isSoundOn = (): boolean => localStorage.getItem(key) !== 'off';
export const setSound = (on: boolean): void => localStorage.setItem(key, on ? 'on' : 'off');

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
