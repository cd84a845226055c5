import { classValidatorResolver } from '@hookform/resolvers/class-validator';
import { useForm } from 'react-hook-form';
import { LoginAttempt } from '@mistpeak/contract/access';
import { command } from '../api';
import { useAttempt } from '../live/attempt';
import { askAccess } from '../live/access';
import { Button } from '../pieces/button';
import { TextField } from '../pieces/field';
import { ProblemNote } from '../pieces/problem-note';

/** One field: whose password it is tells the role. */
export function LoginForm() {
  const { problem, attempt } = useAttempt();
  const { register, handleSubmit, formState, reset } = useForm<LoginAttempt>({
    resolver: classValidatorResolver(LoginAttempt),
    defaultValues: { password: '' },
  });
  const logIn = handleSubmit(async (login) => {
    await attempt(async () => {
      await command('POST', '/access/login', login);
      reset();
      await askAccess();
    });
  });
  return (
    <form onSubmit={(event) => void logIn(event)} noValidate className="flex flex-col gap-3">
      <TextField
        label="Password"
        type="password"
        className="max-w-72"
        hint="The operator’s or the watcher’s."
        error={formState.errors.password?.message}
        {...register('password')}
      />
      {problem && <ProblemNote problem={problem} />}
      <Button type="submit" kind="main" className="w-fit" disabled={formState.isSubmitting}>
        Log in
      </Button>
    </form>
  );
}
