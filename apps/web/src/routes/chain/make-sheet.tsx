import { useNavigate } from 'react-router';
import { chainState, type Chain } from '@mistpeak/core/chain/chain';
import { setupSheet, stepCount } from '@mistpeak/core/sheet/sheet';
import type { ChainSettings, ChainView } from '@mistpeak/contract/chain';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { useSheetFacts } from './sheet-facts';

/** Opens the sheet of the chain, saved first where it is not yet. A chain that breaks has none. */
export function MakeSheet({ chain, isMain }: { chain: Chain; isMain: boolean }) {
  const navigate = useNavigate();
  const facts = useSheetFacts(chain);
  const { problem, isBusy, attempt } = useAttempt();
  const saved = useLive((state) => state.chains);
  if (chainState(chain) === 'breaks') return null;
  const settings = settingsFor(chain);
  // A copy is newer: the ticks are with the one on the Bench, else with the oldest.
  const alike = saved.filter((one) => isSame(one, settings));
  const known = alike.find(({ onBench }) => onBench) ?? alike.at(-1);
  const steps = stepCount(setupSheet(chain, facts, {}));
  const make = (): Promise<boolean> =>
    attempt(async () => {
      const { id } = known ?? (await command<ChainView>('POST', '/chains', settings));
      await navigate(`/chain/${id}`);
    });
  return (
    <>
      <OperatorOnly>
        <Button kind={isMain ? 'main' : 'plain'} disabled={isBusy} onClick={() => void make()}>
          {known ? 'Open' : 'Make'} the setup sheet, {steps} steps
        </Button>
      </OperatorOnly>
      {problem && <ProblemNote problem={problem} />}
    </>
  );
}

/** The same parts for the same purpose by the same socket: its sheet, with its ticks, is there already. */
const isSame = (one: ChainSettings, other: ChainSettings): boolean =>
  one.purpose === other.purpose &&
  (one.radioPort ?? other.radioPort) === other.radioPort &&
  one.parts.map(({ id }) => id).join(' ') === other.parts.map(({ id }) => id).join(' ');

const settingsFor = ({ purpose, stones }: Chain): ChainSettings => ({
  name: '',
  purpose,
  parts: stones.map(({ item }) => item),
  ...(stones[0]?.left ? { radioPort: stones[0].left.id } : {}),
  antenna: '',
  isMoving: false,
  schools: {},
});
