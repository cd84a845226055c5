import { useEffect } from 'react';
import { BULLETINS } from '@mistpeak/core/messages/conversations';
import { command } from '../../api';
import { useIsWatcher } from '../../live/access';
import { useBulletins } from '../../live/conversations';
import { useNow } from '../../live/now';
import { formatAge } from '../../pieces/age';
import { Table } from '../../pieces/table';

/** What is told to all, as it stands. */
export function BulletinsView() {
  const { bulletins, unread } = useBulletins();
  const isWatcher = useIsWatcher();
  const nowMs = useNow(10_000);
  const latestMs = bulletins[0]?.atMs ?? 0;
  useEffect(() => {
    if (unread > 0 && !isWatcher)
      void command('PUT', '/messages/read', { conversation: BULLETINS, atMs: latestMs }).catch(
        () => undefined,
      );
  }, [unread, isWatcher, latestMs]);
  if (bulletins.length === 0)
    return (
      <p className="max-w-[44rem] text-ink2">
        No bulletin was heard. Bulletins (BLN and a figure), announcements (BLN and a letter) and those of
        weather services are shown here; to send one, write to BLN1.
      </p>
    );
  return (
    <Table columns={['Mark', 'From', 'Bulletin', 'Heard']} className="w-full text-[14.5px]" stacks>
      {bulletins.map(({ id, from, to, text, atMs, lastCopyAtMs, copies }) => (
        <tr key={id} className="border-t border-line align-baseline">
          <th scope="row" className="py-2 pr-4 font-mono font-[560]">
            {to}
            <span className="block font-sans text-[12.5px] font-[450] text-ink3">{kindWords(to)}</span>
          </th>
          <td className="py-2 pr-4 font-mono">{from}</td>
          <td className="py-2 pr-4 break-words">{text}</td>
          <td className="py-2 whitespace-nowrap text-ink2">
            {formatAge(nowMs - lastCopyAtMs)} ago
            {copies > 1 && `, ${copies} times since ${formatAge(nowMs - atMs)}`}
          </td>
        </tr>
      ))}
    </Table>
  );
}

function kindWords(to: string): string {
  if (to.startsWith('NWS')) return 'weather service';
  if (to.length > 4) return `bulletin for ${to.slice(4)}`;
  return /\d/.test(to[3] ?? '') ? 'bulletin' : 'announcement';
}
