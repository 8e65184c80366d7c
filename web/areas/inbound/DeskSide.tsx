import { Card, Stack } from '../../kit/layout';
import { DayField } from '../../kit/DayField';
import { EffectPanel } from '../../kit/EffectPanel';
import { Field } from '../../kit/Field';
import { problemOf } from '../../kit/problem';
import { DeskLog } from './DeskLog';
import type { Desk } from './useDesk';

/** Beside the deliveries: the packing note, what was scanned, and what receiving will change. */
export function DeskSide({ desk, today }: { desk: Desk; today: string }) {
  const { tally, change } = desk;
  return (
    <Stack>
      <Card pad fields>
        <Field
          label="Packing note"
          value={tally.packingNote}
          onChange={(packingNote) => change({ what: 'head', packingNote: packingNote.slice(0, 100), cameOn: tally.cameOn })}
          placeholder="its number, if there is one"
        />
        <DayField
          label="Came on"
          lies="behind"
          value={tally.cameOn ?? today}
          today={today}
          onChange={(cameOn) => change({ what: 'head', packingNote: tally.packingNote, cameOn })}
          error={problemOf(desk.unforeseen)?.errors.find(({ field }) => field === 'effectiveOn')?.sentence}
        />
      </Card>
      <DeskLog
        tally={tally}
        refused={desk.notTaken}
        drop={desk.drop}
        takeBack={(key) => {
          change({ what: 'take-back', scan: key });
          desk.setSaid({ kind: 'done', text: 'The last scan is taken back.' });
        }}
        canTake={({ itemId, quantity }) => desk.canTakeExtra(itemId, quantity)}
        take={(aside) => {
          desk.takeExtra(aside);
          change({ what: 'settle-aside', aside: aside.key });
        }}
        wentBack={({ key }) => change({ what: 'settle-aside', aside: key })}
      />
      <EffectPanel
        title="What receiving will change"
        effects={desk.effects}
        error={desk.asking ? undefined : desk.unforeseen}
        idle="Nothing is counted yet. Scan a code, or type a quantity beside a line."
      />
    </Stack>
  );
}
