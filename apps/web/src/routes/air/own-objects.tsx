import { useState } from 'react';
import { formatPlace } from '@mistpeak/core/geo/place';
import type { Position } from '@mistpeak/core/geo/position';
import type { OwnObjectSettings, OwnObjectView } from '@mistpeak/contract/own-objects';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useMainLink } from '../../live/main-link';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { NumberField, SelectField, TextField } from '../../pieces/field';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { SymbolPicker } from '../../pieces/symbol-picker';

type Values = Omit<OwnObjectSettings, 'version' | 'everyMin'> & { everyMin: number | undefined };

/** What begins a new one: at a place, or as somebody else tells it. */
export interface ObjectBegun {
  readonly place: Position;
  readonly kind?: 'object' | 'item';
  readonly name?: string;
  readonly symbolTable?: string;
  readonly symbolCode?: string;
  readonly comment?: string;
}

/** What I tell others of: put on the map, moved, taken back. */
export function OwnObjects({ begun, done }: { begun: ObjectBegun | undefined; done: () => void }) {
  const objects = useLive((state) => state.ownObjects);
  const [open, setOpen] = useState<string>();
  return (
    <section aria-label="My objects" className="flex max-w-[60rem] flex-col gap-3 px-6 py-4 max-md:px-4">
      <h2>My objects</h2>
      <p className="text-[14px] text-ink2">
        What all should see on their maps: a station’s name, a symbol, a word. They are told behind the lock,
        at growing intervals; whoever else tells the same name has taken it over. Click a place on the map to
        put one there.
      </p>
      {begun && <ObjectForm key="new" begun={begun} close={done} />}
      {objects.length === 0 && !begun && <p className="text-[14px] text-ink2">None yet.</p>}
      <ul>
        {objects.map((object) => (
          <li key={object.id} className="border-t border-line py-2">
            <ObjectRow object={object} open={() => setOpen(object.id)} />
            {open === object.id && (
              <ObjectForm key={object.version} object={object} close={() => setOpen(undefined)} />
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

export function stateWords({ state }: Pick<OwnObjectView, 'state'>): string {
  switch (state.phase) {
    case 'quiet':
      return 'not told yet';
    case 'told':
      return state.times === 0
        ? 'waits for the lock, or the channel'
        : `told ${state.times === 1 ? 'once' : `${state.times} times`}`;
    case 'leaving':
      return 'is being taken back';
    case 'taken':
      return `taken over by ${state.by}, who tells it now`;
    case 'gone':
      return 'gone';
  }
}

function ObjectRow({ object, open }: { object: OwnObjectView; open: () => void }) {
  const { problem, isBusy, attempt } = useAttempt();
  const { id, name, kind, place, comment, state } = object;
  const isTelling = state.phase === 'told' || state.phase === 'leaving';
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
      <p className="min-w-0 flex-1">
        <b className="font-mono font-[620]">{name}</b> <span className="text-[13.5px] text-ink2">{kind}</span>{' '}
        <span className="text-[14px]">{comment}</span>
        <span className="block text-[13.5px] text-ink2">
          {stateWords(object)} · <span className="font-mono text-[13px]">{place}</span>
        </span>
      </p>
      <OperatorOnly>
        <Button aria-label={`Change ${name}`} onClick={open}>
          {state.phase === 'taken' || state.phase === 'gone' ? 'Put it again …' : 'Move or change …'}
        </Button>
        {isTelling ? (
          <Button
            kind="stop"
            disabled={isBusy || state.phase === 'leaving'}
            aria-label={`Take ${name} back`}
            onClick={() => void attempt(() => command('POST', `/own-objects/${id}/kill`))}
          >
            Take it back
          </Button>
        ) : (
          <Button
            kind="stop"
            aria-label={`Off the list: ${name}`}
            onClick={() => void attempt(() => command('DELETE', `/own-objects/${id}`))}
          >
            Off the list
          </Button>
        )}
      </OperatorOnly>
      {problem && <ProblemNote problem={problem} />}
    </div>
  );
}

function ObjectForm({
  begun,
  object,
  close,
}: {
  begun?: ObjectBegun;
  object?: OwnObjectView;
  close: () => void;
}) {
  const link = useMainLink();
  const links = useLive((state) => state.links);
  const source = useLive((state) => state.beacon?.source ?? state.operator?.call ?? '');
  const [values, setValues] = useState<Values>(() => {
    if (object) {
      const { id: _, version: __, state: ___, ...rest } = object;
      return rest;
    }
    return {
      linkId: link?.id ?? '',
      source,
      kind: begun?.kind ?? 'object',
      name: begun?.name ?? '',
      place: begun ? formatPlace(begun.place) : '',
      symbolTable: begun?.symbolTable ?? '/',
      symbolCode: begun?.symbolCode ?? ';',
      comment: begun?.comment ?? '',
      path: 'WIDE2-1',
      everyMin: 10,
    };
  });
  const { problem, isBusy, attempt } = useAttempt();
  const set = (more: Partial<Values>): void => setValues({ ...values, ...more });
  const errors = problem?.fields ?? {};
  return (
    <OperatorOnly>
      <form
        aria-label={object ? `Change ${object.name}` : 'A new object'}
        noValidate
        className="mt-2 flex flex-col gap-2 border-l-[3px] border-edge bg-raise px-4 py-3"
        onSubmit={(event) => {
          event.preventDefault();
          const sent = { ...values, ...(object ? { version: object.version } : {}) };
          void attempt(() =>
            object
              ? command('PUT', `/own-objects/${object.id}`, sent)
              : command('POST', '/own-objects', sent),
          ).then((isPut) => isPut && close());
        }}
      >
        <div className="grid gap-x-3 gap-y-1 md:grid-cols-3">
          <TextField
            label="Name"
            mono
            maxLength={9}
            hint="up to nine signs"
            value={values.name}
            error={errors.name}
            onChange={({ target }) => set({ name: target.value })}
          />
          <TextField
            label="Place"
            mono
            value={values.place}
            error={errors.place}
            onChange={({ target }) => set({ place: target.value })}
          />
          <TextField
            label="Comment"
            maxLength={43}
            value={values.comment}
            error={errors.comment}
            onChange={({ target }) => set({ comment: target.value })}
          />
          <SelectField
            label="Form"
            hint="an object says since when; an item is for what stays"
            value={values.kind}
            onChange={({ target }) => set({ kind: target.value as Values['kind'] })}
          >
            <option>object</option>
            <option>item</option>
          </SelectField>
          <TextField
            label="Call with SSID"
            mono
            value={values.source}
            error={errors.source}
            onChange={({ target }) => set({ source: target.value })}
          />
          <TextField
            label="Path"
            mono
            value={values.path}
            error={errors.path}
            onChange={({ target }) => set({ path: target.value })}
          />
          <NumberField
            label="At least every, min"
            hint="once it is known"
            value={values.everyMin}
            error={errors.everyMin}
            set={(everyMin) => set({ everyMin })}
          />
          <SelectField
            label="By which link"
            value={values.linkId}
            error={errors.linkId}
            onChange={({ target }) => set({ linkId: target.value })}
          >
            {links.map(({ id, settings }) => (
              <option key={id} value={id}>
                {settings.name}
              </option>
            ))}
          </SelectField>
        </div>
        <SymbolPicker
          symbol={{ table: values.symbolTable, code: values.symbolCode }}
          take={({ table, code }) => set({ symbolTable: table, symbolCode: code })}
        />
        {problem && !problem.fields && <ProblemNote problem={problem} />}
        <div className="flex gap-2">
          <Button type="submit" kind="main" disabled={isBusy}>
            {object ? 'Tell it so' : 'Put it on the map'}
          </Button>
          <Button onClick={close}>Cancel</Button>
        </div>
      </form>
    </OperatorOnly>
  );
}
