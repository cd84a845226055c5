import { classValidatorResolver } from '@hookform/resolvers/class-validator';
import { useForm } from 'react-hook-form';
import { PasswordSetting, type Role } from '@mistpeak/contract/access';
import { command } from '../../api';
import { useAttempt } from '../../live/attempt';
import { askAccess, useAccess } from '../../live/access';
import { Button } from '../../pieces/button';
import { TextField } from '../../pieces/field';
import { LoginForm } from '../../forms/login-form';
import { ProblemNote } from '../../pieces/problem-note';

const ABOUT: Record<Role, string> = {
  operator: 'Lets a browser in as you, from wherever Mistpeak can be reached.',
  watcher: 'Sees everything; changes nothing and sends nothing, by no way.',
};

/** Who this browser is, and the passwords of the two roles. */
export function WhoMayEnter({ isWatcher }: { isWatcher: boolean }) {
  const { role, isTrusted, isLoggedIn } = useAccess();
  const { problem, attempt } = useAttempt();
  const logOut = (): void => {
    void attempt(() => command('POST', '/access/logout').then(askAccess));
  };
  return (
    <section aria-label="Who may enter" className="flex flex-col gap-3 border-t-[1.5px] border-ink pt-2.5">
      <h2>Who may enter</h2>
      <p className="text-[14px] text-ink2">
        This browser is the <b className="text-ink">{role}</b>
        {isTrusted && !isLoggedIn ? ': the demo needs no login on its own machine.' : '.'}
      </p>
      {isLoggedIn && (
        <Button className="w-fit" onClick={logOut}>
          Log out
        </Button>
      )}
      {problem && <ProblemNote problem={problem} />}
      {isWatcher ? (
        <LoginForm />
      ) : (
        <>
          <PasswordForm role="watcher" />
          <PasswordForm role="operator" />
          {!isLoggedIn && <TryAsWatcher />}
        </>
      )}
    </section>
  );
}

function PasswordForm({ role }: { role: Role }) {
  const isSet = useAccess(({ passwords }) => passwords[role]);
  const { problem, attempt } = useAttempt();
  const { register, handleSubmit, formState, reset } = useForm<PasswordSetting>({
    resolver: classValidatorResolver(PasswordSetting),
    defaultValues: { password: '' },
  });
  const run = async (task: () => Promise<unknown>): Promise<void> => {
    await attempt(() =>
      task()
        .then(askAccess)
        .then(() => reset()),
    );
  };
  const save = handleSubmit((setting) => run(() => command('PUT', `/access/passwords/${role}`, setting)));
  return (
    <form onSubmit={(event) => void save(event)} noValidate className="flex flex-col gap-2">
      <TextField
        label={`Password of the ${role}`}
        type="password"
        className="max-w-72"
        placeholder={isSet ? 'set' : 'none'}
        hint={ABOUT[role]}
        error={formState.errors.password?.message}
        {...register('password')}
      />
      {problem && <ProblemNote problem={problem} />}
      <div className="flex gap-2">
        <Button type="submit">
          {isSet ? 'Change it' : `Let a${role === 'operator' ? 'n' : ''} ${role} in`}
        </Button>
        {isSet && (
          <Button kind="stop" onClick={() => void run(() => command('DELETE', `/access/passwords/${role}`))}>
            Take it away
          </Button>
        )}
      </div>
    </form>
  );
}

/** To leave this screen with others: it becomes a watcher’s until the operator logs in. */
function TryAsWatcher() {
  const canWatch = useAccess(({ passwords }) => passwords.watcher);
  if (!canWatch) return null;
  return (
    <details className="text-[14px]">
      <summary className="cursor-pointer text-ink2">Make this browser a watcher</summary>
      <div className="pt-2">
        <LoginForm />
      </div>
    </details>
  );
}
