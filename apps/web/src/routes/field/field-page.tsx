import { useParams } from 'react-router';
import type { OperatorView } from '@mistpeak/contract/operator';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { differencesOf, ElsewhereNote } from '../../pieces/elsewhere-note';
import { DraftNote } from '../../pieces/draft-note';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { SectionLinks } from '../../pieces/section-links';
import { BatteryPart } from './battery-part';
import { ExposurePart } from './exposure-part';
import { LeavePart } from './leave-part';
import { useField, type Field, type Written } from './field-settings';
import { WiresPart } from './wires-part';

const SECTIONS = {
  battery: 'How long it lasts',
  wires: 'Wires and fuses',
  exposure: 'Distance from the antenna',
  leave: 'Before I leave',
} as const;

const LABELS = { bank: 'Battery', loads: 'What draws', sun: 'Sun', wires: 'Wires', antenna: 'Antenna' };

/** The parts of the form as one line each. */
const inWords = ({
  bank,
  loads,
  panelW,
  skyPercent,
  wires,
  antenna,
}: Written): Record<keyof typeof LABELS, string> => ({
  bank: `${bank.chemistry}, ${bank.ampHours} Ah, ${bank.cells} cells`,
  loads: loads.map(({ name, amps, sharePercent }) => `${name} ${amps} A ${sharePercent} %`).join('; '),
  sun: `${panelW} W, sky ${skyPercent} %`,
  wires: wires
    .map(({ name, oneWayM, areaMm2, amps }) => `${name} ${oneWayM} m ${areaMm2} mm² ${amps} A`)
    .join('; '),
  antenna: Object.values(antenna).join(', '),
});

/** How long does the battery last, are the wires right, how far must people stay? */
export function FieldPage() {
  const { section = 'battery' } = useParams();
  const field = useField();
  const operator = useLive((state) => state.operator) as OperatorView;
  return (
    <div className="flex flex-col gap-4 px-7 py-5 max-md:px-4">
      <h1>Field</h1>
      <SectionLinks label="Parts" sections={SECTIONS} current={section} addressOf={(id) => `/field/${id}`} />
      {section === 'leave' ? (
        <LeavePart />
      ) : section === 'wires' ? (
        <WiresPart field={field} />
      ) : section === 'exposure' ? (
        <ExposurePart field={field} units={operator.units} />
      ) : (
        <BatteryPart field={field} />
      )}
      {section !== 'leave' && <Saving field={field} />}
    </div>
  );
}

function Saving({ field }: { field: Field }) {
  return (
    <OperatorOnly>
      <div className="flex flex-wrap items-center gap-3 border-t border-line pt-3">
        <Button
          disabled={field.isSaved || field.attempt.isBusy || field.elsewhere !== undefined}
          onClick={() => void field.save()}
        >
          {field.isSaved ? 'Saved' : 'Save what goes along'}
        </Button>
        {field.wasBegun && !field.elsewhere && <DraftNote drop={field.drop} />}
        {field.elsewhere && (
          <ElsewhereNote
            differences={differencesOf(inWords(field.values), inWords(field.elsewhere), LABELS)}
            keepMine={field.keepMine}
            takeOther={field.drop}
          />
        )}
        {field.attempt.problem && <ProblemNote problem={field.attempt.problem} />}
      </div>
    </OperatorOnly>
  );
}
