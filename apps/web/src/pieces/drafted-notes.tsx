import type { FieldValues } from 'react-hook-form';
import type { DraftedForm } from '../live/drafted-form';
import { DraftNote } from './draft-note';
import { differencesOf, ElsewhereNote } from './elsewhere-note';

/** What a drafted form has to tell: begun before, or saved elsewhere meanwhile. labels: of the fields, in their order. */
export function DraftedNotes<Values extends FieldValues>({
  drafted: { form, wasBegun, elsewhere, keepMine, drop },
  labels,
}: {
  drafted: DraftedForm<Values>;
  labels: { readonly [Name in keyof Values]?: string };
}) {
  if (elsewhere)
    return (
      <ElsewhereNote
        differences={differencesOf(form.getValues(), elsewhere, labels)}
        keepMine={keepMine}
        takeOther={() => drop()}
      />
    );
  return wasBegun ? <DraftNote drop={() => drop()} /> : null;
}
