import { useState } from 'react';
import { useSearchParams } from 'react-router';

interface Typed {
  readonly text: string;
  /** What the address may still be on its way from: it comes in its own time, one entry after the other. */
  readonly over: readonly string[];
}

/**
 * Parameters of the address that a person types into. What is typed stands here at once and the address follows: the router draws in its
 * own time, and a second entry made meanwhile would be made of what stood there before the first. Where somebody goes elsewhere the address counts.
 */
export function useTypedParams(): readonly [URLSearchParams, (change: (next: URLSearchParams) => void) => void] {
  const [address, setAddress] = useSearchParams();
  const inAddress = address.toString();
  const [typed, setTyped] = useState<Typed | null>(null);
  const isOnItsWay = typed?.over.includes(inAddress) === true;
  const text = isOnItsWay ? typed.text : inAddress;
  const put = (change: (next: URLSearchParams) => void) => {
    const next = new URLSearchParams(text);
    change(next);
    const before = isOnItsWay && text !== inAddress ? typed.over : [inAddress];
    setTyped({ text: next.toString(), over: [...before, next.toString()] });
    setAddress(next, { replace: true });
  };
  return [new URLSearchParams(text), put];
}
