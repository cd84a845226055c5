import { classValidatorResolver } from '@hookform/resolvers/class-validator';
import { useForm } from 'react-hook-form';
import { PairingCode } from '@mistpeak/contract/access';
import { command } from '../api';
import { useAttempt } from '../live/attempt';
import { askAccess } from '../live/access';
import { Button } from '../pieces/button';
import { TextField } from '../pieces/field';
import { ProblemNote } from '../pieces/problem-note';

/** Read before the router leaves that address. */
const CODE_IN_ADDRESS = location.pathname === '/pair' ? location.hash.slice(1) : '';

/** Where it arrives: a page of ours, or the first one. */
const ARRIVES_AT = /^\/[a-z-]+$/.exec(new URLSearchParams(location.search).get('to') ?? '')?.[0] ?? '/';

/** A device lets itself in with the code; from the picture it stands behind the #, which no log keeps. */
export function PairingForm() {
  const { problem, attempt } = useAttempt();
  const { register, handleSubmit, formState } = useForm<PairingCode>({
    resolver: classValidatorResolver(PairingCode),
    defaultValues: { code: CODE_IN_ADDRESS },
  });
  const pair = handleSubmit(async (code) => {
    await attempt(async () => {
      await command('POST', '/access/pair', code);
      // The code is used up: it need not stay in the history.
      history.replaceState(null, '', ARRIVES_AT);
      await askAccess();
      location.reload();
    });
  });
  return (
    <form onSubmit={(event) => void pair(event)} noValidate className="flex flex-col gap-3">
      <TextField
        label="Pairing code"
        mono
        className="max-w-72"
        hint="Ten letters and digits; it lets this device in once"
        error={formState.errors.code?.message}
        {...register('code')}
      />
      {problem && <ProblemNote problem={problem} />}
      <Button type="submit" kind="main" className="w-fit" disabled={formState.isSubmitting}>
        Pair this device
      </Button>
    </form>
  );
}
