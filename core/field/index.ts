export { countOf, onlyWith, quantity, rating } from './common.ts';
export {
  fieldSchema,
  initialValue,
  linesLimit,
  readQuantityData,
  readQuantityText,
  textOf,
  type BlockField,
  type ChoiceField,
  type FieldSpec,
  type FieldValue,
  type OnlyWith,
  type LinesField,
  type QuantityField,
  type QuantityValue,
  type ValueOrigin,
  type ReadField,
} from './field.ts';
export { nameUpTo, textUpTo } from './text.ts';
