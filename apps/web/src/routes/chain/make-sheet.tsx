import { useNavigate } from 'react-router';
import { chainState, type Chain } from '@mistpeak/core/chain/chain';
import { setupSheet, stepCount } from '@mistpeak/core/sheet/sheet';
import type { ChainSettings, ChainView } from '@mistpeak/contract/chain';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { Button } from '../../pieces/button';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { useSheetFacts } from './sheet-facts';

/** Saves the chain and opens its sheet. A chain that breaks has none. */
export function MakeSheet({ chain, isMain }: { chain: Chain; isMain: boolean }) {
  const navigate = useNavigate();
  const facts = useSheetFacts(chain);
  const { problem, attempt } = useAttempt();
  if (chainState(chain) === 'breaks') return null;
  const steps = stepCount(setupSheet(chain, facts, {}));
  const make = (): Promise<boolean> =>
    attempt(async () => {
      const saved = await command<ChainView>('POST', '/chains', settingsFor(chain));
      await navigate(`/chain/${saved.id}`);
    });
  return (
    <>
      <OperatorOnly>
        <Button kind={isMain ? 'main' : 'plain'} onClick={() => void make()}>
          Make the setup sheet, {steps} steps
        </Button>
      </OperatorOnly>
      {problem && <ProblemNote problem={problem} />}
    </>
  );
}

const settingsFor = ({ purpose, stones }: Chain): ChainSettings => ({
  purpose,
  parts: stones.map(({ item }) => item),
  ...(stones[0]?.left ? { radioPort: stones[0].left.id } : {}),
  antenna: '',
  isMoving: false,
  schools: {},
});
