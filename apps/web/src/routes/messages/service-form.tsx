import { useState } from 'react';
import { FIELD_KINDS, FORM_KINDS, troubleWithForm, type FieldKind } from '@mistpeak/core/services/form';
import type { Problem } from '@mistpeak/contract/failures';
import type { FormFieldSettings, ServiceSettings } from '@mistpeak/contract/messages';
import { Button } from '../../pieces/button';
import { NumberField, SelectField, TextField } from '../../pieces/field';
import { ProblemNote } from '../../pieces/problem-note';

const KIND_WORDS: Record<FieldKind, string> = {
  number: 'a phone number',
  address: 'a mail address',
  word: 'one word',
  text: 'free text',
};

/** How a service wants to be asked, as its operator describes it. */
export function ServiceForm({
  service,
  problem,
  isBusy,
  save,
  remove,
  close,
}: {
  service?: ServiceSettings;
  problem: Problem | undefined;
  isBusy: boolean;
  save: (service: ServiceSettings) => void;
  remove?: () => void;
  close: () => void;
}) {
  const [values, set] = useState<ServiceSettings>(service ?? begun('phone'));
  const fields = problem?.fields ?? {};
  const change = (more: Partial<ServiceSettings>): void => set({ ...values, ...more });
  const changeField = (at: number, more: Partial<FormFieldSettings>): void =>
    change({ fields: values.fields.map((field, i) => (i === at ? { ...field, ...more } : field)) });
  return (
    <form
      noValidate
      aria-label="Service"
      className="flex flex-col gap-3 border-l-[3px] border-edge bg-raise px-4 py-3"
      onSubmit={(event) => {
        event.preventDefault();
        save(values);
      }}
    >
      {!service && (
        <div className="flex flex-wrap gap-2" role="group" aria-label="Begin with">
          {Object.entries(FORM_KINDS).map(([id, { name }]) => (
            <Button key={id} aria-pressed={values.name === name} onClick={() => set(begun(id))}>
              {name}
            </Button>
          ))}
        </div>
      )}
      <div className="grid gap-3 md:grid-cols-3">
        <TextField
          label="Name"
          value={values.name}
          error={fields.services}
          onChange={({ target }) => change({ name: target.value })}
        />
        <TextField
          label="Addressee"
          mono
          value={values.addressee}
          hint="the name that the service has on the air"
          onChange={({ target }) => change({ addressee: target.value.toUpperCase() })}
        />
        <TextField
          label="Its text"
          mono
          value={values.template}
          error={fields.template ?? troubleWithForm(values)}
          hint="each field in braces"
          onChange={({ target }) => change({ template: target.value })}
        />
      </div>
      {values.fields.map((field, i) => (
        <div key={i} className="grid gap-3 md:grid-cols-[8rem_1fr_9rem_7rem_7rem_auto] md:items-start">
          <TextField
            label="Field"
            mono
            value={field.name}
            onChange={({ target }) => changeField(i, { name: target.value })}
          />
          <TextField
            label="Asks"
            value={field.label}
            onChange={({ target }) => changeField(i, { label: target.value })}
          />
          <SelectField
            label="Takes"
            value={field.kind}
            onChange={({ target }) => changeField(i, { kind: target.value as FieldKind })}
          >
            {FIELD_KINDS.map((kind) => (
              <option key={kind} value={kind}>
                {KIND_WORDS[kind]}
              </option>
            ))}
          </SelectField>
          {field.kind === 'number' && (
            <>
              <NumberField
                label="Digits"
                value={field.digits}
                set={(digits) => changeField(i, digits === undefined ? {} : { digits })}
              />
              <TextField
                label="Prefix"
                mono
                value={field.prefix ?? ''}
                hint="empty: none"
                onChange={({ target }) => changeField(i, { prefix: target.value })}
              />
            </>
          )}
          <Button
            className="md:mt-6"
            aria-label={`Remove the field ${field.name}`}
            onClick={() => change({ fields: values.fields.filter((_, at) => at !== i) })}
          >
            Remove
          </Button>
        </div>
      ))}
      <div>
        <Button
          onClick={() =>
            change({
              fields: [
                ...values.fields,
                { name: `field${values.fields.length + 1}`, label: '', kind: 'text' },
              ],
            })
          }
        >
          Add a field
        </Button>
      </div>
      <div className="grid gap-3 md:grid-cols-2">
        <TextField
          label="What has to be done once"
          value={values.optIn}
          hint="by the recipient, before it works; empty: nothing"
          onChange={({ target }) => change({ optIn: target.value })}
        />
        <TextField
          label="Says when it has delivered"
          value={values.deliveredMark}
          hint="a piece of that answer; empty: it never says so"
          onChange={({ target }) => change({ deliveredMark: target.value })}
        />
      </div>
      {problem && <ProblemNote problem={problem} />}
      <div className="flex flex-wrap gap-2">
        <Button type="submit" kind="main" disabled={isBusy}>
          Save the service
        </Button>
        <Button onClick={close}>Cancel</Button>
        {remove && (
          <Button kind="stop" disabled={isBusy} onClick={remove}>
            Remove it
          </Button>
        )}
      </div>
    </form>
  );
}

function begun(kind: string): ServiceSettings {
  const form = FORM_KINDS[kind] as (typeof FORM_KINDS)[string];
  return {
    ...form,
    addressee: '',
    fields: form.fields.map(({ words, ...field }) => ({ ...field, words: [...(words ?? [])] })),
  };
}
