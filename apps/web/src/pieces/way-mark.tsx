/** Radio by a filled peak, internet by a hollow square: told apart by shape. */
export function WayMark({ byInternet }: { byInternet: boolean }) {
  return (
    <svg width="12" height="11" viewBox="0 0 12 11" className="inline-block" aria-hidden>
      {byInternet ? (
        <rect x="1.5" y="1.5" width="8" height="8" fill="none" stroke="currentColor" strokeWidth="1.6" />
      ) : (
        <path d="M0.5 10 6 1l5.5 9z" fill="currentColor" />
      )}
    </svg>
  );
}
