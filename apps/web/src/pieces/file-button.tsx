import { useRef, type ReactNode } from 'react';
import { Button } from './button';

/** A button that asks for a file; the same one can be chosen again. label: of the field, for those who do not see the button. */
export function FileButton({
  label,
  accept,
  take,
  disabled = false,
  children,
}: {
  label: string;
  accept: string;
  take: (file: File) => void;
  disabled?: boolean;
  children: ReactNode;
}) {
  const input = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button disabled={disabled} onClick={() => input.current?.click()}>
        {children}
      </Button>
      <input
        ref={input}
        type="file"
        accept={accept}
        aria-label={label}
        className="sr-only"
        tabIndex={-1}
        onChange={({ target }) => {
          const [file] = target.files ?? [];
          if (file) take(file);
          target.value = '';
        }}
      />
    </>
  );
}
