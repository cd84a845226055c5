import { useParams } from 'react-router';
import type { OperatorView } from '@mistpeak/contract/operator';
import { useLive } from '../../live/store';
import { Button } from '../../pieces/button';
import { DraftNote } from '../../pieces/draft-note';
import { OperatorOnly } from '../../pieces/operator-only';
import { ProblemNote } from '../../pieces/problem-note';
import { SectionLinks } from '../../pieces/section-links';
import { BatteryPart } from './battery-part';
import { ExposurePart } from './exposure-part';
import { useField } from './field-settings';
import { WiresPart } from './wires-part';

const SECTIONS = {
  battery: 'How long it lasts',
  wires: 'Wires and fuses',
  exposure: 'Distance from the antenna',
} as const;

/** How long does the battery last, are the wires right, how far must people stay? */
export function FieldPage() {
  const { section = 'battery' } = useParams();
  const field = useField();
  const operator = useLive((state) => state.operator) as OperatorView;
  return (
    <div className="flex flex-col gap-4 px-7 py-5 max-md:px-4">
      <h1>Field</h1>
      <SectionLinks label="Parts" sections={SECTIONS} current={section} addressOf={(id) => `/field/${id}`} />
      {section === 'wires' ? (
        <WiresPart field={field} />
      ) : section === 'exposure' ? (
        <ExposurePart field={field} units={operator.units} />
      ) : (
        <BatteryPart field={field} />
      )}
      <OperatorOnly>
        <div className="flex flex-wrap items-center gap-3 border-t border-line pt-3">
          <Button disabled={field.isSaved || field.attempt.isBusy} onClick={() => void field.save()}>
            {field.isSaved ? 'Saved' : 'Save what goes along'}
          </Button>
          {field.wasBegun && <DraftNote drop={field.drop} />}
          {field.elsewhere && (
            <p role="alert" className="flex flex-wrap items-center gap-3 text-[13.5px]">
              It was saved elsewhere meanwhile.
              <Button onClick={field.keepMine}>Keep mine</Button>
              <Button onClick={field.drop}>Take what is saved</Button>
            </p>
          )}
          {field.attempt.problem && <ProblemNote problem={field.attempt.problem} />}
        </div>
      </OperatorOnly>
    </div>
  );
}
