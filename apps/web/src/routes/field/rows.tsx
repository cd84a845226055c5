import { Plus, X } from 'lucide-react';
import { Button } from '../../pieces/button';
import { useTypedNumber } from '../../pieces/field';

interface Column<Row> {
  readonly key: keyof Row & string;
  readonly label: string;
  readonly kind: 'text' | 'number';
}

const CELL =
  'w-full rounded-[7px] border-[1.5px] border-edge bg-raise px-2 py-1 aria-invalid:border-stop max-md:min-h-11';

/** A short list that is typed: one row each, the last can be taken away again. */
export function Rows<Row extends object>({
  title,
  add,
  rows,
  fresh,
  columns,
  set,
}: {
  title: string;
  add: string;
  rows: readonly Row[];
  fresh: Row;
  columns: readonly Column<Row>[];
  set: (rows: Row[]) => void;
}) {
  const put = (at: number, key: string, value: unknown): void =>
    set(rows.map((row, i) => (i === at ? { ...row, [key]: value } : row)));
  return (
    <section aria-label={title}>
      <h2>{title}</h2>
      <table className="w-full text-[14px]">
        <thead className="text-left text-[12.5px] text-ink3">
          <tr>
            {columns.map(({ key, label }) => (
              <th key={key} scope="col" className="font-[500]">
                {label}
              </th>
            ))}
            <th scope="col">
              <span className="sr-only">Take away</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row, at) => (
            <tr key={at}>
              {columns.map(({ key, label, kind }) => (
                <td key={key} className={`py-0.5 pr-1.5 ${kind === 'number' ? 'w-20' : ''}`}>
                  {kind === 'text' ? (
                    <input
                      aria-label={`${label} ${at + 1}`}
                      value={String(row[key])}
                      onChange={({ target }) => put(at, key, target.value)}
                      className={CELL}
                    />
                  ) : (
                    <NumberCell
                      label={`${label} ${at + 1}`}
                      value={row[key] as number}
                      set={(value) => put(at, key, value)}
                    />
                  )}
                </td>
              ))}
              <td className="w-8">
                <button
                  type="button"
                  aria-label={`Take away ${title.toLowerCase()} ${at + 1}`}
                  onClick={() => set(rows.filter((_, i) => i !== at))}
                  className="grid size-8 place-items-center text-ink2 hover:text-ink max-md:size-11"
                >
                  <X className="size-4" aria-hidden />
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Button onClick={() => set([...rows, fresh])}>
        <Plus className="size-4" aria-hidden /> {add}
      </Button>
    </section>
  );
}

function NumberCell({ label, value, set }: { label: string; value: number; set: (value: number) => void }) {
  const typed = useTypedNumber({ value, set: (now) => set(now ?? NaN) });
  return (
    <input
      aria-label={label}
      aria-invalid={!Number.isFinite(value)}
      className={`${CELL} font-mono`}
      {...typed}
    />
  );
}
