import type { Wave } from '../element.ts';
import { BadWord, deckNumber } from './number.ts';
import type { Words } from './line.ts';

const shapes = new Set(['sin', 'pulse', 'pwl', 'exp']);

/** What a source does: `5`, `DC 5`, `AC 1`, and one of SIN, PULSE, PWL, EXP, which then stands for the time that is run. */
export function waveOf(words: Words): Wave {
  let value: number | null = null;
  let wave: Wave | null = null;
  for (let next = words.peek(); next !== undefined; next = words.peek()) {
    const shape = next.toLowerCase();
    if (shape === 'dc') {
      words.next('DC');
      value = words.value('value behind DC');
    } else if (shape === 'ac') {
      // The small signal of another analysis: nothing of it is in what is run here.
      words.next('AC');
      if (words.peek() !== undefined && !shapes.has(words.peek()?.toLowerCase() ?? '')) words.value('size behind AC');
      if (words.peek() !== undefined && !Number.isNaN(deckNumber(words.peek() ?? ''))) words.value('phase behind AC');
    } else if (shapes.has(shape)) {
      if (wave) throw new BadWord(`"${next}": a source has one shape`);
      words.next('shape');
      wave = shaped(shape, words);
    } else if (value === null && !wave) value = words.value('value');
    else break;
  }
  if (!wave && value === null) throw new BadWord('value is missing');
  return wave ?? { kind: 'dc', value: value ?? 0 };
}

function shaped(shape: string, words: Words): Wave {
  const numbers: number[] = [];
  while (words.peek() !== undefined && !['dc', 'ac'].includes(words.peek()?.toLowerCase() ?? ''))
    numbers.push(words.value(`number ${numbers.length + 1} of ${shape.toUpperCase()}`));
  const at = (i: number, what: string, initial?: number): number => {
    const value = numbers[i] ?? initial;
    if (value === undefined) throw new BadWord(`${what} of ${shape.toUpperCase()} is missing`);
    return value;
  };
  const most = (count: number) => {
    if (numbers.length > count)
      throw new BadWord(`"${numbers[count] ?? ''}": ${shape.toUpperCase()} takes at most ${count} numbers`);
  };
  switch (shape) {
    case 'sin': {
      most(6);
      const [delay, damping, phase] = [at(3, 'delay', 0), at(4, 'damping', 0), at(5, 'phase in degrees', 0)];
      return {
        kind: 'sine',
        offset: at(0, 'offset'),
        amplitude: at(1, 'amplitude'),
        frequency: at(2, 'frequency'),
        ...(delay === 0 ? {} : { delay }),
        ...(damping === 0 ? {} : { damping }),
        ...(phase === 0 ? {} : { phase: (phase * Math.PI) / 180 }),
      };
    }
    case 'pulse': {
      most(7);
      const period = numbers[6];
      return {
        kind: 'pulse',
        low: at(0, 'first level'),
        high: at(1, 'second level'),
        delay: at(2, 'delay', 0),
        rise: at(3, 'rise', 0),
        fall: at(4, 'fall', 0),
        // Where none is given the pulse stays to the end.
        width: at(5, 'width', 1e30),
        ...(period === undefined ? {} : { period }),
      };
    }
    case 'exp': {
      most(6);
      const [rise, riseTime] = [at(2, 'delay of the rise', 0), at(3, 'time constant of the rise')];
      const [fall, fallTime] = [at(4, 'delay of the fall'), at(5, 'time constant of the fall')];
      if (!(riseTime > 0 && fallTime > 0)) throw new BadWord('the time constants of EXP must be above 0');
      return { kind: 'exponential', low: at(0, 'first level'), high: at(1, 'second level'), rise, riseTime, fall, fallTime };
    }
    default: {
      if (numbers.length === 0 || numbers.length % 2 !== 0) throw new BadWord('PWL takes pairs of time and value');
      const points = Array.from(
        { length: numbers.length / 2 },
        (_, i) => [numbers[2 * i] ?? 0, numbers[2 * i + 1] ?? 0] as const,
      );
      if (points.some(([t], i) => i > 0 && t < (points[i - 1]?.[0] ?? 0))) throw new BadWord('the times of PWL must not fall');
      return { kind: 'piecewise', points };
    }
  }
}

/** A wave as a deck writes it. @param shortest s that stand for a rise of none: other simulators put a step of their own there */
export function waveWords(wave: Wave, shortest: number): string {
  switch (wave.kind) {
    case 'dc':
      return `DC ${wave.value}`;
    case 'sine': {
      const rest = [wave.delay ?? 0, wave.damping ?? 0, ((wave.phase ?? 0) * 180) / Math.PI];
      return `SIN(${[wave.offset, wave.amplitude, wave.frequency, ...(rest.some((x) => x !== 0) ? rest : [])].join(' ')})`;
    }
    case 'pulse': {
      const { low, high, delay, rise, fall, width, period } = wave;
      const edges = [Math.max(rise, shortest), Math.max(fall, shortest)];
      return `PULSE(${[low, high, delay, ...edges, width, ...(period === undefined ? [] : [period])].join(' ')})`;
    }
    case 'exponential':
      return `EXP(${[wave.low, wave.high, wave.rise, wave.riseTime, wave.fall, wave.fallTime].join(' ')})`;
    case 'piecewise': {
      let last = -Infinity;
      // Two points at one time are a step: other simulators want the times to rise.
      const rising = wave.points.map(([t, y]) => {
        last = t > last ? t : last + Math.max(shortest, Math.abs(last) * 1e-15);
        return `${last} ${y}`;
      });
      return `PWL(${rising.join(' ')})`;
    }
    default:
      return wave satisfies never;
  }
}
