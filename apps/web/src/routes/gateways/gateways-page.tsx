import { useParams } from 'react-router';
import type { OperatorView } from '@mistpeak/contract/operator';
import { useDirectory } from '../../live/directory';
import { useLive } from '../../live/store';
import { SectionLinks } from '../../pieces/section-links';
import AddView from './add-view';
import { Conflicts } from './conflicts';
import ListsView from './lists-view';
import OrderView from './order-view';

const SECTIONS = { order: 'In order', add: 'Add', lists: 'Lists and tries' } as const;

/** Who can be called, in what order, from here? */
export function GatewaysPage() {
  const { section = 'order' } = useParams();
  const operator = useLive((state) => state.operator) as OperatorView;
  const directory = useDirectory();
  return (
    <div className="flex flex-col gap-4 px-7 py-5 max-md:px-4">
      <h1>Gateways</h1>
      <div className="print:hidden">
        <SectionLinks
          label="Parts"
          sections={SECTIONS}
          current={section}
          addressOf={(id) => `/gateways/${id}`}
        />
      </div>
      {!directory && <p className="text-ink2">Opening the directory …</p>}
      {directory && (
        <>
          <Conflicts conflicts={directory.conflicts} />
          {directory.facilities.length === 0 && section === 'order' && (
            <p className="max-w-[44rem]">
              Nobody is known yet. Take a list that you saved at home, or what announces itself on the
              channel: both under “Add”.
            </p>
          )}
          {section === 'add' ? (
            <AddView directory={directory} operator={operator} />
          ) : section === 'lists' ? (
            <ListsView directory={directory} operator={operator} />
          ) : (
            <OrderView directory={directory} operator={operator} />
          )}
        </>
      )}
    </div>
  );
}
