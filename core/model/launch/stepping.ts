export type Numbers = Float64Array;
export const at = (k: Numbers, j: number): number => k[j] as number;

/**
 * Steps of a system of ordinary differential equations, with what lies within a step: Dormand and Prince, A family of embedded
 * Runge-Kutta formulae, J. Comput. Appl. Math. 6 (1980).
 */
export abstract class Stepping {
  /** States that act on each other, and all of them: behind those stands what is only summed. */
  protected readonly acting: number;
  protected readonly size: number;
  /** The slopes at the start of a step, at each of its stages, and at its end. */
  protected readonly k: Numbers[];
  private readonly trial: Numbers;
  protected next: Numbers;
  protected y: Numbers;
  /** What an error is measured by. */
  protected readonly scale: Numbers;

  constructor(acting: number, summed: number) {
    this.acting = acting;
    this.size = acting + summed;
    const states = () => new Float64Array(this.size);
    this.k = Array.from({ length: 7 }, states);
    this.trial = states();
    this.next = states();
    this.y = states();
    this.scale = states();
  }

  /** Writes the slope of every state, by the acting ones alone. */
  protected abstract slopes(y: Numbers, out: Numbers): void;

  /**
   * One step of h from y, its slope in k[0]; the result in next, the slope there in k[6].
   *
   * @returns its error over what is allowed
   */
  protected attempt(h: number, tolerance: number): number {
    const { y, trial, next, acting, size, scale } = this;
    const [k0, k1, k2, k3, k4, k5, k6] = this.k as [Numbers, Numbers, Numbers, Numbers, Numbers, Numbers, Numbers];
    for (let j = 0; j < acting; j++) trial[j] = at(y, j) + h * (at(k0, j) / 5);
    this.slopes(trial, k1);
    for (let j = 0; j < acting; j++) trial[j] = at(y, j) + h * ((3 / 40) * at(k0, j) + (9 / 40) * at(k1, j));
    this.slopes(trial, k2);
    for (let j = 0; j < acting; j++)
      trial[j] = at(y, j) + h * ((44 / 45) * at(k0, j) - (56 / 15) * at(k1, j) + (32 / 9) * at(k2, j));
    this.slopes(trial, k3);
    for (let j = 0; j < acting; j++)
      trial[j] =
        at(y, j) +
        h * ((19372 / 6561) * at(k0, j) - (25360 / 2187) * at(k1, j) + (64448 / 6561) * at(k2, j) - (212 / 729) * at(k3, j));
    this.slopes(trial, k4);
    for (let j = 0; j < acting; j++)
      trial[j] =
        at(y, j) +
        h *
          ((9017 / 3168) * at(k0, j) -
            (355 / 33) * at(k1, j) +
            (46732 / 5247) * at(k2, j) +
            (49 / 176) * at(k3, j) -
            (5103 / 18656) * at(k4, j));
    this.slopes(trial, k5);
    for (let j = 0; j < size; j++)
      next[j] =
        at(y, j) +
        h *
          ((35 / 384) * at(k0, j) +
            (500 / 1113) * at(k2, j) +
            (125 / 192) * at(k3, j) -
            (2187 / 6784) * at(k4, j) +
            (11 / 84) * at(k5, j));
    this.slopes(next, k6);
    // Of what is only summed the heat alone is watched: the energy is to close.
    let worst = 0;
    for (let j = 0; j <= acting; j++) {
      const error =
        (71 / 57600) * at(k0, j) -
        (71 / 16695) * at(k2, j) +
        (71 / 1920) * at(k3, j) -
        (17253 / 339200) * at(k4, j) +
        (22 / 525) * at(k5, j) -
        (1 / 40) * at(k6, j);
      const share = Math.abs(h * error) / (tolerance * at(scale, j));
      // A number that is none must not pass.
      if (!(share <= worst)) worst = share;
    }
    return worst;
  }

  /**
   * The state at a share of the last step of h, to the fourth order, good until the next is tried: Hairer, Nørsett and Wanner, Solving
   * Ordinary Differential Equations I, section II.6, from memory; a test holds the peaks found by it to the closed form.
   */
  protected within(h: number, share: number): Numbers {
    const { y, next, trial } = this;
    const [k0, , k2, k3, k4, k5, k6] = this.k as [Numbers, Numbers, Numbers, Numbers, Numbers, Numbers, Numbers];
    const [p, q] = [share * share * (3 - 2 * share), 1 - share];
    for (let j = 0; j < this.size; j++) {
      const more =
        (-12715105075 / 11282082432) * at(k0, j) +
        (87487479700 / 32700410799) * at(k2, j) -
        (10690763975 / 1880347072) * at(k3, j) +
        (701980252875 / 199316789632) * at(k4, j) -
        (1453857185 / 822651844) * at(k5, j) +
        (69997945 / 29380423) * at(k6, j);
      trial[j] = at(y, j) + p * (at(next, j) - at(y, j)) + h * share * q * (q * at(k0, j) - share * at(k6, j) + share * q * more);
    }
    return trial;
  }

  /**
   * Where within the last step of h a state is greatest, as a share of the step: steps are long, and their ends alone miss a peak by half a
   * percent. @returns null where it is so at an end
   */
  protected crestOf(j: number, h: number): number | null {
    const [from, to] = [h * at(this.k[0] as Numbers, j), h * at(this.k[6] as Numbers, j)];
    if (!(from > 0 && to < 0)) return null;
    // The slope of the cubic through both ends with their slopes, as a polynomial of the share: nought once between them.
    const fall = 6 * (at(this.y, j) - at(this.next, j));
    const [a, b] = [fall + 3 * (from + to), -fall - 4 * from - 2 * to];
    const share = (2 * from) / (Math.sqrt(b * b - 4 * a * from) - b);
    return share > 0 && share < 1 ? share : null;
  }
}
