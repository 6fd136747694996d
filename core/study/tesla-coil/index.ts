export { paceOf, tankRow, type TankBreak, type TankRow } from './row.ts';
export { ringShape, tankWindow, type RingShape, type TankSignal } from './window.ts';
export { loopsOf, tankStudy, type TankDrawing, type TankStudy, type TankVariant, type Tuning } from './study.ts';
export { solvedBreaks, type SolvedBreaks } from './solved.ts';
