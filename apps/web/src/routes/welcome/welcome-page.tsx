import { OperatorForm } from '../../forms/operator-form';

/** The first visit: who holds the licence, and where. */
export function WelcomePage() {
  return (
    <div className="mx-auto max-w-[46rem] px-7 py-8 max-md:px-4">
      <h1>Who is at the bench?</h1>
      <p className="mt-1 mb-5 text-ink2">
        Mistpeak links a radio’s TNC, shows what it hears and proves what works. It needs your call sign
        before anything can be sent; until you arm the transmitter it only receives.
      </p>
      <OperatorForm label="Begin" />
    </div>
  );
}
