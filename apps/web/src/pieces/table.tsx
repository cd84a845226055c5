import type { ReactNode } from 'react';

/** The head of a column; className: its width or side. isHidden: said, not shown. */
export interface Column {
  readonly head: string;
  readonly className?: string;
  readonly isHidden?: boolean;
}

/** A table with its heads; the rows are the caller’s. */
export function Table({
  columns,
  className = 'mt-2 w-full text-[14px]',
  children,
}: {
  columns: readonly (string | Column)[];
  className?: string;
  children: ReactNode;
}) {
  return (
    <table className={`text-left ${className}`}>
      <thead className="text-[12.5px] text-ink3">
        <tr>
          {columns.map((column) => {
            const {
              head,
              className: side = '',
              isHidden,
            } = typeof column === 'string' ? { head: column } : column;
            return (
              <th key={head} scope="col" className={`py-1 font-[500] ${side}`}>
                {isHidden ? <span className="sr-only">{head}</span> : head}
              </th>
            );
          })}
        </tr>
      </thead>
      <tbody>{children}</tbody>
    </table>
  );
}
