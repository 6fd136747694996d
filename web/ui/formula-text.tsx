import { Fragment } from 'react';

/** Formula text with its subscripts set low: V_th as V with th below the line. */
export function FormulaText({ text }: { text: string }) {
  return text
    .split(/(_[A-Za-z0-9]+)/)
    .map((piece, i) => (piece.startsWith('_') ? <sub key={i}>{piece.slice(1)}</sub> : <Fragment key={i}>{piece}</Fragment>));
}
