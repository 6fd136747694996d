import { chargeLeak as bleederOf, type ChargeLaw, type Offers, type RigContext } from '../block/index.ts';
import { chargeFormulas, marxFormulas, work, type Worked } from '../formula/index.ts';

/** How the store is charged: by the law of its charging path or its supply, or as a voltage behind a resistance does it. */

function effectiveChargingResistance(rig: RigContext): Worked {
  const R1 = rig.figure('charging-resistance');
  const bleeder = bleederOf(rig);
  return bleeder ? work(chargeFormulas.parallelResistance, { R1, R2: bleeder }, 'charging resistance beside the bleeder') : R1;
}

/** A voltage behind a resistance: how a store is charged where neither supply nor charging path has a law of its own. */
const plainLaw: ChargeLaw = {
  reach: (rig) => {
    const bleeder = bleederOf(rig);
    const Vs = rig.figure('charging-voltage');
    return bleeder ? work(chargeFormulas.loadedSupplyVoltage, { Vs, R: rig.figure('charging-resistance'), Rb: bleeder }) : Vs;
  },
  time: (rig, V, title) =>
    work(
      chargeFormulas.rcChargeTime,
      { R: effectiveChargingResistance(rig), C: rig.figure('bank-capacitance'), Vs: rig.figure('charge-towards'), V },
      title,
    ),
  loss: (rig, V) =>
    work(chargeFormulas.chargingLoss, {
      R: rig.figure('charging-resistance'),
      Rb: bleederOf(rig) ?? rig.offer('insulation'),
      C: rig.figure('bank-capacitance'),
      Vs: rig.figure('charging-voltage'),
      V,
    }),
  peak: (rig) =>
    work(
      chargeFormulas.initialCurrent,
      { Vs: rig.figure('charging-voltage'), R: rig.figure('charging-resistance') },
      'peak charging current',
    ),
};

/** A ladder of stages behind a resistance: the charge is done when its last stage is full. */
const ladderLaw: ChargeLaw = {
  ...plainLaw,
  // A bleeder stands where the supply does, and takes its share before the ladder.
  time: (rig, V, title) => {
    const ladder = rig.offers('store').ladder as NonNullable<Offers['ladder']>;
    const x = work(chargeFormulas.shareOfVoltage, { V, Vs: rig.figure('charge-towards') }, 'share of the final voltage');
    return work(marxFormulas.ladderChargeTime, { ...ladder, x, Rs: effectiveChargingResistance(rig) }, title);
  },
  peak: (rig) => {
    const R2 = (rig.offers('store').ladder as NonNullable<Offers['ladder']>).R;
    const R = work(chargeFormulas.seriesSum, { R1: rig.figure('charging-resistance'), R2 }, 'resistance before the first stage');
    return work(chargeFormulas.initialCurrent, { Vs: rig.figure('charging-voltage'), R }, 'peak charging current');
  },
};

/** Whether supply or charging path have a law of their own. */
export const hasOwnLaw = (rig: RigContext): boolean =>
  (rig.offers('charging').chargeLaw ?? rig.offers('supply').chargeLaw) !== undefined;

/** A law that knows the stages as one capacitor, which is their mean, and the last stage behind it by the lag of its ladder. */
const lagging = (law: ChargeLaw): ChargeLaw => ({
  ...law,
  time: (rig, V, title) => {
    const ladder = rig.offers('store').ladder as NonNullable<Offers['ladder']>;
    return work(
      chargeFormulas.timeSum,
      { t1: law.time(rig, V, 'all stages as one'), t2: work(marxFormulas.ladderLag, ladder, 'lag of the last stage') },
      title,
    );
  },
});

/** How the store is charged. The charging path decides before the supply: a choke swings whatever feeds it. */
export function chargeLaw(rig: RigContext): ChargeLaw {
  const own = rig.offers('charging').chargeLaw ?? rig.offers('supply').chargeLaw;
  const { ladder } = rig.offers('store');
  if (own) return ladder ? lagging(own) : own;
  return ladder ? ladderLaw : plainLaw;
}
