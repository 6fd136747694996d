export { countOf, quantity, rating } from './common.ts';
export {
  fieldSchema,
  initialValue,
  readQuantityData,
  readQuantityText,
  textOf,
  type ChoiceField,
  type FieldSpec,
  type FieldValue,
  type QuantityField,
  type QuantityValue,
  type ValueOrigin,
  type ReadField,
} from './field.ts';
export { textUpTo } from './text.ts';
