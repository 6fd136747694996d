export { overPanels } from './gauss.ts';
