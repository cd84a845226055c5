import { useEffect, useLayoutEffect, useState } from 'react';
import {
  useForm,
  useWatch,
  type FieldValues,
  type Path,
  type PathValue,
  type UseFormProps,
  type UseFormReturn,
} from 'react-hook-form';
import { isAlike, readKept, writeKept } from './draft';

export interface DraftedForm<Values extends FieldValues> {
  readonly form: UseFormReturn<Values>;
  /** Something is written that is not saved. */
  readonly isBegun: boolean;
  /** It was begun before this form came up. */
  readonly wasBegun: boolean;
  /** What is saved now, when it is not what this draft began with. */
  readonly elsewhere: Values | undefined;
  readonly keepMine: () => void;
  /** Also after it was saved: what is saved, or the given values, stand there. */
  readonly drop: (saved?: Values) => void;
}

/**
 * A form on something that is saved: a draft outlives the page, untouched fields follow what is saved elsewhere, and who
 * has begun is told of it. draft: its name, one for each thing.
 */
export function useDraftedForm<Values extends FieldValues>({
  draft,
  saved,
  ...rest
}: Pick<UseFormProps<Values>, 'resolver' | 'mode'> & {
  readonly draft: string;
  readonly saved: Values;
}): DraftedForm<Values> {
  const [kept] = useState(() => readKept<Values>(draft));
  const [begunFrom, setBegunFrom] = useState(kept?.begunFrom ?? saved);
  const form = useForm<Values>({ ...rest, values: saved, resetOptions: { keepDirtyValues: true } });
  // The form’s own word for it is lost when what is saved changes below it.
  const values = useWatch({ control: form.control }) as Values;
  const isBegun = !isAlike(values, saved);
  useLayoutEffect(() => {
    for (const [name, value] of Object.entries(kept?.values ?? {}))
      if (value !== null && !isAlike(value, saved[name]))
        form.setValue(name as Path<Values>, value as PathValue<Values, Path<Values>>, { shouldDirty: true });
    // Once, as the form comes up.
    // oxlint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  const written = JSON.stringify(values);
  useEffect(() => {
    writeKept(draft, isBegun ? { begunFrom, values: JSON.parse(written) as Values } : undefined);
  }, [draft, isBegun, begunFrom, written]);
  if (!isBegun && !isAlike(begunFrom, saved)) setBegunFrom(saved);
  return {
    form,
    isBegun,
    wasBegun: kept !== undefined && isBegun,
    elsewhere: isBegun && !isAlike(begunFrom, saved) ? saved : undefined,
    keepMine: () => setBegunFrom(saved),
    drop: (now = saved) => {
      writeKept(draft, undefined);
      form.reset(now, { keepDirtyValues: false });
      setBegunFrom(now);
    },
  };
}
