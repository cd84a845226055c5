/** How much of a message has been carried. */
export function Share({ done, of }: { done: number; of: number }) {
  const share = of === 0 ? 1 : Math.min(1, done / of);
  return (
    <div
      role="progressbar"
      aria-label="carried"
      aria-valuemin={0}
      aria-valuemax={of}
      aria-valuenow={done}
      className="mt-1 h-1.5 rounded-full bg-line"
    >
      <div className="h-full rounded-full bg-provedfill" style={{ width: `${share * 100}%` }} />
    </div>
  );
}
