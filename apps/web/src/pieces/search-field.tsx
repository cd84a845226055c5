/** A word by which a list is narrowed. className: where it stands. */
export function SearchField({
  label,
  value,
  set,
  placeholder = '',
  className = '',
  isAmongFields = false,
}: {
  label: string;
  value: string;
  set: (value: string) => void;
  placeholder?: string;
  className?: string;
  /** Its name above it, as fields have theirs. */
  isAmongFields?: boolean;
}) {
  return (
    <label
      className={`text-[13.5px] font-[620] max-md:w-full ${isAmongFields ? 'flex flex-col gap-1 pb-1' : ''} ${className}`}
    >
      {label}{' '}
      <input
        type="search"
        value={value}
        onChange={({ target }) => set(target.value)}
        placeholder={placeholder}
        className={`w-60 max-w-full rounded-[7px] border-[1.5px] border-edge bg-raise px-2 font-[400] text-ink placeholder:text-ink3 max-md:ml-0 max-md:min-h-11 max-md:w-full ${isAmongFields ? 'py-1.5 text-[15px]' : 'ml-1 py-1'}`}
      />
    </label>
  );
}
