import { typedNumber } from '@mistpeak/core/units/typed-number';

const read = (value: string | number): number => (typeof value === 'number' ? value : typedNumber(value));

/** For a field that holds a number, typed with a comma or a point. */
export const AS_NUMBER = { setValueAs: read };

/** For one that may stay empty. */
export const AS_NUMBER_OR_NONE = {
  setValueAs: (value: string | number | undefined): number | undefined =>
    value === undefined || value === '' ? undefined : read(value),
};
