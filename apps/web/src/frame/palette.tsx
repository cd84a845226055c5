import { useState } from 'react';
import { Command } from 'cmdk';
import { Dialog } from 'radix-ui';
import { useHotkeys } from 'react-hotkeys-hook';
import { useAttempt } from '../live/attempt';
import { useActions, type Action } from '../live/actions';
import { ProblemNote } from '../pieces/problem-note';
import { rate } from './rate';

type Shown = 'nothing' | 'palette' | 'keys' | 'problem';

const OVERLAY = 'fixed inset-0 z-30 bg-black/50';
const CONTENT =
  'fixed top-[12dvh] left-1/2 z-40 w-[min(34rem,94vw)] -translate-x-1/2 overflow-hidden rounded-xl border border-edge bg-sheet';

/** Every page and action by words (Ctrl or ⌘ K) and by key; `?` shows the keys. Keys rest while something is typed. */
export function Palette() {
  const actions = useActions();
  const [shown, show] = useState<Shown>('nothing');
  const { problem, attempt } = useAttempt();
  const run = async (action: Action): Promise<void> => {
    show('nothing');
    if (!(await attempt(() => Promise.resolve(action.run())))) show('problem');
  };
  useHotkeys('mod+k', () => show('palette'), { enableOnFormTags: true, preventDefault: true });
  // By the sign that a key makes, not by its place: layouts differ.
  useHotkeys('?', () => show('keys'), { useKey: true, preventDefault: true });
  return (
    <>
      {actions.map(
        (action) =>
          action.keys && (
            <ActionKey key={action.id} action={action} run={run} isEnabled={shown === 'nothing'} />
          ),
      )}
      <Dialog.Root open={shown !== 'nothing'} onOpenChange={(isOpen) => !isOpen && show('nothing')}>
        <Dialog.Portal>
          <Dialog.Overlay className={OVERLAY} />
          <Dialog.Content aria-describedby={undefined} className={CONTENT}>
            {shown === 'palette' && <Actions actions={actions} run={run} />}
            {shown === 'keys' && <Keys actions={actions} />}
            {shown === 'problem' && problem && (
              <div className="p-5">
                <Dialog.Title className="pb-3 text-[1.1rem] font-[650]">That was refused</Dialog.Title>
                <ProblemNote problem={problem} />
              </div>
            )}
          </Dialog.Content>
        </Dialog.Portal>
      </Dialog.Root>
    </>
  );
}

/** One key of its own: hooks cannot be made in a loop. */
function ActionKey({
  action,
  run,
  isEnabled,
}: {
  action: Action;
  run: (action: Action) => Promise<void>;
  isEnabled: boolean;
}) {
  useHotkeys((action.keys ?? '').replace(' ', '>'), () => void run(action), { enabled: isEnabled }, [
    action,
    run,
  ]);
  return null;
}

function Actions({ actions, run }: { actions: readonly Action[]; run: (action: Action) => Promise<void> }) {
  return (
    <Command label="Pages and actions" filter={rate}>
      <Dialog.Title className="sr-only">Pages and actions</Dialog.Title>
      <Command.Input
        placeholder="A page or an action"
        className="w-full border-b border-line bg-raise px-5 py-3 text-ink placeholder:text-ink3"
      />
      <Command.List className="max-h-[50dvh] overflow-y-auto p-2">
        <Command.Empty className="px-3 py-2 text-ink2">Nothing of that name.</Command.Empty>
        {actions.map((action) => (
          <Command.Item
            key={action.id}
            value={action.words}
            keywords={action.about?.split(', ') ?? []}
            onSelect={() => void run(action)}
            className="flex min-h-9 cursor-pointer items-center justify-between gap-3 rounded-md px-3 py-1 data-[selected=true]:bg-ink data-[selected=true]:text-paper"
          >
            <span className="min-w-0">
              {action.words}
              {action.about && (
                <span className="block truncate text-[12.5px] opacity-75">{action.about}</span>
              )}
            </span>
            {action.keys && <kbd className="shrink-0 font-mono text-[13px]">{action.keys}</kbd>}
          </Command.Item>
        ))}
      </Command.List>
    </Command>
  );
}

function Keys({ actions }: { actions: readonly Action[] }) {
  const rows = [
    ...actions.flatMap(({ id, words, keys }) => (keys ? [{ id, words, keys }] : [])),
    { id: 'palette', words: 'Every page and action', keys: 'Ctrl K' },
    { id: 'keys', words: 'These keys', keys: '?' },
    { id: 'rows', words: 'From row to row in the log', keys: '↑ ↓' },
  ];
  return (
    <div className="p-5">
      <Dialog.Title className="pb-2 text-[1.1rem] font-[650]">Keys</Dialog.Title>
      <dl className="grid grid-cols-[1fr_auto] gap-y-1">
        {rows.map(({ id, words, keys }) => (
          <div key={id} className="contents">
            <dt className="text-ink2">{words}</dt>
            <dd className="font-mono">{keys}</dd>
          </div>
        ))}
      </dl>
    </div>
  );
}
