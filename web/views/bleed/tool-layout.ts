import type { ToolPart } from '@vast-surge/core/block';

export interface Place {
  readonly x: number;
  readonly y: number;
}

/** A part where it is drawn: its first node at one end, its second at the other. */
export interface DrawnPart {
  readonly part: ToolPart;
  readonly from: Place;
  readonly to: Place;
}

/** A tool as it is drawn. Ends that touch, or lie on one wire, are joined; nothing else is. */
export interface DrawnTool {
  readonly parts: readonly DrawnPart[];
  readonly wires: readonly (readonly [Place, Place])[];
  readonly tip: Place;
  readonly earth: Place;
  readonly width: number;
  readonly height: number;
}

const [top, bottom, step, row] = [40, 150, 74, 92] as const;

/**
 * Lays a tool out from its wiring: from the tip along the upper rail, what goes to the earthed side down to the lower one, side by side.
 *
 * @throws where a part hangs on nothing: such wiring is no tool
 */
export function layTool(wiring: readonly ToolPart[]): DrawnTool {
  const parts: DrawnPart[] = [];
  const wires: (readonly [Place, Place])[] = [];
  const left = new Set(wiring);
  let x = 24;
  let lowest: number | null = null;
  const place = (part: ToolPart, node: string, at: Place, other: Place) => {
    left.delete(part);
    parts.push(part.nodes[0] === node ? { part, from: at, to: other } : { part, from: other, to: at });
  };
  const visit = (node: string): void => {
    const here = [...left].filter(({ nodes }) => nodes.includes(node));
    const start: Place = { x, y: top };
    for (const part of here.filter(({ nodes }) => nodes.includes('0'))) {
      x += step;
      place(part, node, { x, y: top }, { x, y: bottom });
      lowest ??= x;
    }
    if (x > start.x) wires.push([start, { x, y: top }]);
    for (const part of here.filter((one) => left.has(one))) {
      const next = part.nodes[0] === node ? part.nodes[1] : part.nodes[0];
      const begin: Place = { x, y: top };
      x += row;
      place(part, node, begin, { x, y: top });
      visit(next);
    }
  };
  visit('tip');
  if (left.size > 0) throw new Error(`${[...left].map(({ name }) => name).join(', ')} is not connected`);
  const earth: Place = { x: x + 46, y: bottom };
  wires.push([{ x: lowest ?? x, y: bottom }, earth]);
  return { parts, wires, tip: { x: 24, y: top }, earth, width: earth.x + 34, height: bottom + 34 };
}
