import type { MailProfile } from '@mistpeak/contract/mail-settings';
import { Choice } from '../../pieces/choice';
import { NumberField, TextField } from '../../pieces/field';

type Schedule = NonNullable<MailProfile['schedule']>;

const OFF: Schedule = {
  isOn: false,
  everyMinutes: 60,
  atTimes: [],
  fromHour: 0,
  toHour: 0,
  allowsAutomatic: false,
};

/** When it calls by itself. */
export function ScheduleFields({
  schedule = OFF,
  set,
}: {
  schedule: Schedule | undefined;
  set: (schedule: Schedule) => void;
}) {
  const change = (more: Partial<Schedule>): void => set({ ...schedule, ...more });
  return (
    <details className="text-[14px]">
      <summary className="cursor-pointer py-1 text-ink2">
        By itself: {schedule.isOn ? scheduleWords(schedule) : 'no'}
      </summary>
      <div className="flex flex-col gap-2 pt-1">
        <Choice
          label="Call by itself, while the transmitter is armed and the channel is quiet"
          isOn={schedule.isOn}
          set={(isOn) => change({ isOn })}
        />
        <div className="grid gap-3 sm:grid-cols-4">
          <NumberField
            label="Every so many minutes"
            hint="0: only at the times"
            value={schedule.everyMinutes}
            set={(everyMinutes) => change({ everyMinutes: everyMinutes ?? 0 })}
          />
          <TextField
            label="At these times, UTC"
            mono
            placeholder="07:30, 18:30"
            value={schedule.atTimes.join(', ')}
            onChange={({ target }) =>
              change({ atTimes: target.value.split(/[,\s]+/).filter((one) => one !== '') })
            }
          />
          <NumberField
            label="From hour, UTC"
            value={schedule.fromHour}
            set={(fromHour) => change({ fromHour: fromHour ?? 0 })}
          />
          <NumberField
            label="To hour, UTC"
            hint="the same: all day"
            value={schedule.toHour}
            set={(toHour) => change({ toHour: toHour ?? 0 })}
          />
        </div>
        <Choice
          label="My local rules allow a station that calls while nobody is there"
          isOn={schedule.allowsAutomatic}
          set={(allowsAutomatic) => change({ allowsAutomatic })}
        />
      </div>
    </details>
  );
}

function scheduleWords({ everyMinutes, atTimes, fromHour, toHour }: Schedule): string {
  const often = everyMinutes > 0 ? `every ${everyMinutes} min` : '';
  const times = atTimes.length > 0 ? `at ${atTimes.join(', ')} UTC` : '';
  const hours = fromHour === toHour ? '' : `, from ${fromHour} to ${toHour} UTC`;
  return [often, times].filter((one) => one !== '').join(' and ') + hours;
}
