import type { Tally } from '@larder/core/inbound/tally';
import { memo } from 'react';
import { Card, Stack } from '../../kit/layout';
import { DayField } from '../../kit/DayField';
import { EffectPanel } from '../../kit/EffectPanel';
import { Field } from '../../kit/Field';
import { problemOf } from '../../kit/problem';
import { useSteady } from '../../kit/steady';
import { DeskLog } from './DeskLog';
import type { Desk } from './useDesk';

/** Beside the deliveries: the packing note, what was scanned, and what receiving will change. */
export function DeskSide({ desk, today }: { desk: Desk; today: string }) {
  const { tally, change } = desk;
  const put = useSteady((head: NoteOf) => void change({ what: 'head', ...head }));
  return (
    <Stack>
      <Note
        packingNote={tally.packingNote}
        cameOn={tally.cameOn}
        today={today}
        error={problemOf(desk.unforeseen)?.errors.find(({ field }) => field === 'effectiveOn')?.sentence}
        put={put}
      />
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

type NoteOf = Pick<Tally, 'packingNote' | 'cameOn'>;

interface NoteProps extends NoteOf {
  today: string;
  error: string | undefined;
  put: (head: NoteOf) => void;
}

/** The number of the packing note, and the day the goods came; not drawn anew at each scan. */
const Note = memo(function Note({ packingNote, cameOn, today, error, put }: NoteProps) {
  return (
    <Card pad fields>
      <Field
        label="Packing note"
        value={packingNote}
        onChange={(typed) => put({ packingNote: typed.slice(0, 100), cameOn })}
        placeholder="its number, if there is one"
      />
      <DayField label="Came on" lies="behind" value={cameOn ?? today} today={today} onChange={(day) => put({ packingNote, cameOn: day })} error={error} />
    </Card>
  );
});
