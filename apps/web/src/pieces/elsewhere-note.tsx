import { Button } from './button';

export interface Difference {
  readonly label: string;
  readonly mine: string;
  readonly other: string;
}

/** Somebody saved what this form is about while it was being filled in: both stand here, and the operator chooses. */
export function ElsewhereNote({
  differences,
  keepMine,
  takeOther,
}: {
  differences: readonly Difference[];
  keepMine: () => void;
  takeOther: () => void;
}) {
  return (
    <div role="alert" className="border-l-[3px] border-look bg-raise px-3 py-2 text-[14px]">
      <p className="font-[640]">It was changed elsewhere meanwhile. Both stand here; nothing is saved yet.</p>
      <table className="my-1.5 w-full text-left">
        <thead>
          <tr className="text-ink2">
            <th className="pr-3 font-[560]">
              <span className="sr-only">Field</span>
            </th>
            <th className="pr-3 font-[560]">Yours</th>
            <th className="font-[560]">Saved elsewhere</th>
          </tr>
        </thead>
        <tbody>
          {differences.map(({ label, mine, other }) => (
            <tr key={label} className="border-t border-line align-baseline">
              <th scope="row" className="pr-3 font-[560]">
                {label}
              </th>
              <td className="pr-3 wrap-anywhere">{mine || 'empty'}</td>
              <td className="wrap-anywhere">{other || 'empty'}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="flex flex-wrap gap-2">
        <Button onClick={keepMine}>Keep mine</Button>
        <Button onClick={takeOther}>Take the other</Button>
      </div>
    </div>
  );
}

/** The fields of two versions that differ, by their labels. */
export function differencesOf<Values extends object>(
  mine: Values,
  other: Values,
  labels: { readonly [Name in keyof Values]?: string },
): Difference[] {
  return (Object.keys(labels) as (keyof Values)[])
    .map((name) => ({ label: labels[name] ?? '', mine: shown(mine[name]), other: shown(other[name]) }))
    .filter((one) => one.mine !== one.other);
}

function shown(value: unknown): string {
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  return typeof value === 'string' ? value : (JSON.stringify(value) ?? '');
}
