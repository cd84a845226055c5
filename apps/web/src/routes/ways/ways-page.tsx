import { useParams } from 'react-router';
import type { OperatorView } from '@mistpeak/contract/operator';
import { useLive } from '../../live/store';
import { SectionLinks } from '../../pieces/section-links';
import { GatesPart } from './gates-part';
import { InternetPart } from './internet-part';
import { LeavingPart } from './leaving-part';

const SECTIONS = {
  leaving: 'What leaves by which way',
  internet: 'The internet side',
  gates: 'What is passed on for others',
} as const;

/** By which ways does anything leave or come in, and what do they prove? */
export function WaysPage() {
  const { section = 'leaving' } = useParams();
  const operator = useLive((state) => state.operator) as OperatorView;
  return (
    <div className="flex flex-col gap-4 px-7 py-5 max-md:px-4">
      <h1>Ways</h1>
      <SectionLinks label="Parts" sections={SECTIONS} current={section} addressOf={(id) => `/ways/${id}`} />
      {section === 'internet' ? (
        <InternetPart operator={operator} />
      ) : section === 'gates' ? (
        <GatesPart />
      ) : (
        <LeavingPart operator={operator} />
      )}
    </div>
  );
}
