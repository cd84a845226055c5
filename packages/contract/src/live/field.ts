import type { FieldView } from '../field.js';

/** Battery, wires and antenna of the field, and what was measured. */
export interface FieldSnapshot {
  readonly field: FieldView;
}

export interface FieldEvents {
  field: FieldView;
}
