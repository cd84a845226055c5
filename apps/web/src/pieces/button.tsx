import type { ComponentProps } from 'react';

const KINDS = {
  plain: 'border-edge bg-raise text-ink hover:bg-sheet',
  main: 'border-ink bg-ink text-paper hover:opacity-90',
  stop: 'border-stop bg-raise text-stop hover:bg-sheet',
} as const;

/** Its words say what will happen. */
export function Button({
  kind = 'plain',
  className = '',
  type = 'button',
  ...rest
}: ComponentProps<'button'> & { kind?: keyof typeof KINDS }) {
  return (
    <button
      type={type}
      className={`inline-flex min-h-9 items-center gap-2 rounded-[7px] border-[1.5px] px-3 py-1 text-[14.5px] font-[620] whitespace-nowrap disabled:cursor-not-allowed disabled:opacity-50 max-md:min-h-11 ${KINDS[kind]} ${className}`}
      {...rest}
    />
  );
}
