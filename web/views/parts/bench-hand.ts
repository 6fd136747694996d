/** Who measures with what: typed once, kept on this device for the next part. */
export interface Hand {
  readonly instrument: string;
  readonly by: string;
}

const key = 'vast-surge.hand';

export function savedHand(): Hand {
  try {
    const { instrument, by } = JSON.parse(localStorage.getItem(key) ?? '') as Partial<Hand>;
    return { instrument: String(instrument ?? '').slice(0, 80), by: String(by ?? '').slice(0, 40) };
  } catch {
    return { instrument: '', by: '' };
  }
}

export function saveHand(hand: Hand): void {
  try {
    localStorage.setItem(key, JSON.stringify(hand));
  } catch {
    // Only a convenience: a full device costs typing it again.
  }
}
