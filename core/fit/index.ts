export {
  fitCharge,
  fitDecay,
  fitLine,
  fitRing,
  fitShare,
  NoFit,
  type ChargeFit,
  type DecayFit,
  type LineFit,
  type RingFit,
} from './fits.ts';
export { estimate, fitModel, studentFactor, type Estimate, type Fitted } from '../numeric/index.ts';
export { averaged, between, envelope, withoutClipping, type Measured } from './trace.ts';
