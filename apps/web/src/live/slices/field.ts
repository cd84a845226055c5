import type { FieldView } from '@mistpeak/contract/field';
import type { FieldEvents } from '@mistpeak/contract/live/field';
import type { Slice } from './slice';

export interface FieldState {
  readonly field: FieldView;
}

export const field: Slice<FieldState, keyof FieldEvents> = {
  empty: { field: { readings: [] } },
  ofSnapshot: (snapshot) => ({ field: snapshot.field }),
  on: { field: (_, now) => ({ field: now }) },
};
