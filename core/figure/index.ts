export { ifKnown } from '../block/index.ts';
export { Corners, reasonOf, type Band, type Corner } from './band.ts';
export {
  checkFigure,
  definitionIn,
  figureSpecs,
  RigReading,
  shotLeaf,
  type Overrides,
  type Scattered,
  type ShotDrawn,
} from './context.ts';
export { figuresOf, missingFigures, type Figure } from './figures.ts';
export { chargeLaw, hasOwnLaw } from './charge-law.ts';
export { printBand, printFigure } from './print-figure.ts';
export { thresholdOf, wheelResistance } from './whole.ts';
export { figureGroups, type FigureGroup } from './questions.ts';
