import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Card, PageHead, Side, Split, Stack } from '../../kit/layout';
import { useState } from 'react';
import { useAddress } from '../../kit/address';
import { BottomBar } from '../../kit/BottomBar';
import { DayField } from '../../kit/DayField';
import { refusalOf } from '../../kit/draft';
import { FindField } from '../../kit/FindField';
import { count } from '../../kit/format';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMay } from '../../shared/may';
import { useMeQuery } from '../../shared/me';
import { useBringInAccountsMutation, useHandOverMutation, useHandoverQuery, useMapAccountsMutation, useTakeBackMutation } from './api';
import { useSay } from '../../shared/say';
import { BookTabs } from '../../shared/BookTabs';
import { Mapping } from './HandoverMapping';
import { Comparison } from './HandoverComparison';
import { HandedOver } from './HandedOver';

/** How many go at once. */
const most = 1000;

/** Handing the journal over to the accounting service: accounts mapped, entries sent once each, taken back, both sides compared. */
export function HandoverPage() {
  useTitle('Hand-over');
  const { data: standing, error } = useHandoverQuery({});
  const { data: me } = useMeQuery({});
  const [through, setThrough] = useState<string | null>(null);
  const [comparing, setComparing] = useState(false);
  const [bringIn, bringing] = useBringInAccountsMutation();
  const [mapAccounts, mapping] = useMapAccountsMutation();
  const [handOver, handing] = useHandOverMutation();
  const [takeBack, taking] = useTakeBackMutation();
  const { refused, busy } = refusalOf(bringing, mapping, handing, taking);
  const address = useAddress();
  const say = useSay();
  const mayMap = useMay('setup.edit');
  const maySend = useMay('books.bill');
  if (!standing || !me) return <Waiting error={error} />;
  const { waiting, ready, outside } = standing;
  const fetchAccounts = async () => {
    const { data } = await bringIn({});
    if (data) say({ text: `${count(data.outside.length, 'account')} of theirs imported.` });
  };
  const hand = async () => {
    const { data } = await handOver({ body: { through } });
    if (data) say({ text: `${count(data.sent, 'entry', 'entries')} handed over.` });
  };
  const back = async (id: number) => {
    if ((await takeBack({ params: { id } })).data) say({ text: 'It is taken back, and may be handed over again.' });
  };
  const map = (accountId: number, code: string) => void mapAccounts({ body: { rows: [{ accountId, outsideCode: code || null }] } });
  const next =
    outside.length === 0
      ? mayMap && { label: 'Import their accounts', run: () => void fetchAccounts(), disabled: busy }
      : maySend && {
          label: `Hand over ${count(Math.min(ready, most), 'entry', 'entries')}`,
          run: () => void hand(),
          disabled: busy || ready === 0,
        };
  return (
    <Stack>
      <PageHead sx={{ margin: 0 }}>
        <h1>Books</h1>
        <BookTabs />
        <Side>
          <FindField address={address} label="Find what was handed over" placeholder="Their number, text, day" />
        </Side>
      </PageHead>
      <Refused error={refused} />
      <Card pad fields aria-label="What waits" sx={{ alignItems: 'end' }}>
        <Box component="p" sx={{ margin: 0 }}>
          <b>{count(waiting, 'entry waits', 'entries wait')}</b>
          <br />
          <span className={waiting > ready ? 'low' : 'quiet'}>
            {waiting === 0
              ? 'Everything was handed over.'
              : waiting > ready
                ? `${count(waiting - ready, 'of them is', 'of them are')} on accounts that are not mapped yet.`
                : 'All of them can be handed over.'}
          </span>
        </Box>
        <DayField label="Entries up to" lies="behind" value={through} today={me.company.today} onChange={setThrough} />
      </Card>
      <Split even>
        <Stack>
          {comparing ? <Comparison /> : null}
          <HandedOver q={address.get('q')} today={me.company.today} back={maySend ? (id) => void back(id) : null} busy={busy} />
        </Stack>
        <Mapping standing={standing} map={mayMap ? map : null} busy={busy} />
      </Split>
      <BottomBar hint="Each entry is handed over once; taken back, it may be handed over again" next={next || undefined}>
        <Button aria-pressed={comparing} onClick={() => setComparing(!comparing)}>
          Compare both sides
        </Button>
        {outside.length > 0 && mayMap ? (
          <Button disabled={busy} onClick={() => void fetchAccounts()}>
            Import their accounts again
          </Button>
        ) : null}
      </BottomBar>
    </Stack>
  );
}
