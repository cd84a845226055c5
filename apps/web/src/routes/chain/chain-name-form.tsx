import type { ChainView } from '@mistpeak/contract/chain';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useDraft } from '../../live/draft';
import { settingsOf } from '../../live/saved-chain';
import { Button } from '../../pieces/button';
import { ElsewhereNote } from '../../pieces/elsewhere-note';
import { TextField } from '../../pieces/field';
import { ProblemNote } from '../../pieces/problem-note';

/** What a saved chain is called. */
export function ChainNameForm({ chain, close }: { chain: ChainView; close: () => void }) {
  const { problem, isBusy, attempt } = useAttempt();
  const { values: name, set, elsewhere, keepMine, drop } = useDraft(`chain name ${chain.id}`, chain.name);
  const giveUp = (): void => {
    drop();
    close();
  };
  const save = (): Promise<boolean> =>
    attempt(async () => {
      const settings = { ...settingsOf(chain), name, version: chain.version };
      await command('PUT', `/chains/${chain.id}`, settings);
      giveUp();
    });
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
      className="flex w-full flex-col gap-2 pb-1"
    >
      <TextField
        label="Name of the chain"
        hint="Empty: by its radio and its app"
        maxLength={60}
        value={name}
        onChange={({ target }) => set(target.value)}
      />
      {elsewhere !== undefined && (
        <ElsewhereNote
          differences={[{ label: 'Name', mine: name, other: elsewhere }]}
          keepMine={keepMine}
          takeOther={drop}
        />
      )}
      {problem && <ProblemNote problem={problem} />}
      <div className="flex gap-2">
        <Button type="submit" kind="main" disabled={isBusy || elsewhere !== undefined}>
          Save the name
        </Button>
        <Button onClick={giveUp}>Cancel</Button>
      </div>
    </form>
  );
}
