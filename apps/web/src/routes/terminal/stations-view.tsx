import type { Macro, SavedNode, TerminalSettingsView } from '@mistpeak/contract/terminal';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useDraft } from '../../live/draft';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { DraftNote } from '../../pieces/draft-note';
import { NumberField, SelectField, TextField } from '../../pieces/field';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';

const KINDS: readonly SavedNode['kind'][] = ['mailbox', 'node', 'shell', 'mail gateway', 'station'];
const NEW_NODE: SavedNode = {
  name: '',
  call: '',
  via: '',
  kind: 'mailbox',
  note: '',
  endOfText: '/EX',
  charset: 'guess',
  escapes: 'strip',
};

/** Whom I call now and again, and what I say often. */
export function StationsView() {
  const saved = useLive((state) => state.terminal);
  const { values, set, wasBegun, drop } = useDraft<TerminalSettingsView>('terminal', saved);
  const { problem, isBusy, attempt } = useAttempt();
  const { nodes, macros } = values;
  const changeNode = (at: number, more: Partial<SavedNode>): void =>
    set({ ...values, nodes: nodes.map((node, i) => (i === at ? { ...node, ...more } : node)) });
  const changeMacro = (at: number, more: Partial<Macro>): void =>
    set({ ...values, macros: macros.map((macro, i) => (i === at ? { ...macro, ...more } : macro)) });
  return (
    <OperatorOnly>
      <form
        noValidate
        className="flex max-w-[62rem] flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          void attempt(async () => {
            await command('PUT', '/terminal/settings', { nodes, macros, version: saved.version });
            drop();
          });
        }}
      >
        {wasBegun && <DraftNote drop={drop} />}
        <h2>Saved stations</h2>
        {nodes.length === 0 && <p className="text-[14px] text-ink2">None yet.</p>}
        {nodes.map((node, i) => (
          <fieldset key={i} className="flex flex-col gap-2 border-t border-line pt-3">
            <legend className="sr-only">{node.name || `station ${i + 1}`}</legend>
            <div className="grid gap-3 md:grid-cols-4">
              <TextField
                label="Name"
                value={node.name}
                onChange={({ target }) => changeNode(i, { name: target.value })}
              />
              <TextField
                label="Call"
                mono
                value={node.call}
                onChange={({ target }) => changeNode(i, { call: target.value.toUpperCase() })}
              />
              <TextField
                label="Via"
                mono
                value={node.via}
                onChange={({ target }) => changeNode(i, { via: target.value.toUpperCase() })}
              />
              <NumberField
                label="Frequency, MHz"
                value={node.frequencyMHz}
                set={(frequencyMHz) => {
                  const { frequencyMHz: _, ...rest } = node;
                  changeNode(i, frequencyMHz === undefined ? rest : { frequencyMHz });
                }}
              />
              <SelectField
                label="What it is"
                value={node.kind}
                onChange={({ target }) => changeNode(i, { kind: target.value as SavedNode['kind'] })}
              >
                {KINDS.map((kind) => (
                  <option key={kind}>{kind}</option>
                ))}
              </SelectField>
              <SelectField
                label="A text ends with"
                value={node.endOfText}
                onChange={({ target }) => changeNode(i, { endOfText: target.value })}
              >
                <option value="/EX">/EX on a line</option>
                <option value={'\u001a'}>Ctrl-Z</option>
              </SelectField>
              <SelectField
                label="Letters"
                value={node.charset}
                onChange={({ target }) => changeNode(i, { charset: target.value as SavedNode['charset'] })}
              >
                {['guess', 'UTF-8', 'ISO-8859-1', 'CP437'].map((one) => (
                  <option key={one}>{one}</option>
                ))}
              </SelectField>
              <SelectField
                label="Its colours"
                value={node.escapes}
                onChange={({ target }) => changeNode(i, { escapes: target.value as SavedNode['escapes'] })}
              >
                <option value="strip">left out</option>
                <option value="interpret">shown</option>
              </SelectField>
            </div>
            <div className="flex items-end gap-3">
              <div className="flex-1">
                <TextField
                  label="Note"
                  value={node.note}
                  onChange={({ target }) => changeNode(i, { note: target.value })}
                />
              </div>
              <Button
                kind="stop"
                onClick={() => set({ ...values, nodes: nodes.filter((_, at) => at !== i) })}
              >
                Take {node.name || 'it'} out
              </Button>
            </div>
          </fieldset>
        ))}
        <div>
          <Button onClick={() => set({ ...values, nodes: [...nodes, NEW_NODE] })}>Add a station</Button>
        </div>
        <h2>Macros</h2>
        <p className="text-[13.5px] text-ink2">Words that one press sends; a new line sends Enter.</p>
        {macros.map((macro, i) => (
          <div key={i} className="grid items-end gap-3 md:grid-cols-[12rem_minmax(0,1fr)_auto]">
            <TextField
              label="Name"
              value={macro.name}
              onChange={({ target }) => changeMacro(i, { name: target.value })}
            />
            <label className="flex flex-col gap-1 text-[13.5px] font-[620]">
              What it sends
              <textarea
                rows={2}
                value={macro.text}
                onChange={({ target }) => changeMacro(i, { text: target.value })}
                className="rounded-[7px] border-[1.5px] border-edge bg-raise px-2.5 py-1.5 font-mono font-[400]"
              />
            </label>
            <Button
              kind="stop"
              onClick={() => set({ ...values, macros: macros.filter((_, at) => at !== i) })}
            >
              Take it out
            </Button>
          </div>
        ))}
        <div className="flex gap-3">
          <Button onClick={() => set({ ...values, macros: [...macros, { name: '', text: '' }] })}>
            Add a macro
          </Button>
        </div>
        {problem && <ProblemNote problem={problem} detail={Object.values(problem.fields ?? {}).join('; ')} />}
        <div>
          <Button type="submit" kind="main" disabled={isBusy}>
            Save stations and macros
          </Button>
        </div>
      </form>
    </OperatorOnly>
  );
}
