import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { sheets } from '@larder/core/printing/sheets';
import { newRequestKey } from '@larder/contract/requestKey';
import type { LabelForm } from '@larder/contract/printing';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { refusalOf } from '../../kit/draft';
import { count } from '../../kit/format';
import { Refused } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { WorkProgress } from '../../shared/work';
import { usePreviewLabelsQuery, usePrintLabelsMutation } from './api';
import { PrintedLast } from './PrintedLast';
import { ids, measures, number, ownSheet } from './labelForm';
import { PaperCard, type PaperForm } from './PaperCard';

/** Labels for items, bins, lots and serial units, or a code sheet for the bench: on which paper, seen before it is printed. */
export function LabelsPage() {
  useTitle('Labels');
  const [search] = useSearchParams();
  const site = /^site-(\d+)$/.exec(search.get('bins') ?? '');
  const [form, setForm] = useState<PaperForm>({
    sheet: sheets[0]?.key ?? '',
    own: measures,
    startAt: '1',
    copies: '1',
    symbology: 'best',
    codeSheet: site ? `site-${site[1] ?? ''}` : '',
  });
  const put = (part: Partial<PaperForm>) => setForm((was) => ({ ...was, ...part }));
  const { sheet, own, startAt, copies, symbology, codeSheet } = form;
  const [done, setDone] = useState<{ id: number; said: string; of: string } | null>(null);
  const [key, setKey] = useState<string | null>(null);
  const [print, printing] = usePrintLabelsMutation();
  const of = (kind: string) => Number(codeSheet.startsWith(`${kind}-`) ? codeSheet.slice(kind.length + 1) : 0) || null;
  const body: LabelForm = {
    sheet,
    own: sheet === 'own' ? ownSheet(own) : null,
    startAt: Math.max(1, Math.round(number(startAt, 1))),
    // A code sheet hangs at the bench: each code is on it once.
    copies: codeSheet === '' ? Math.max(1, Math.round(number(copies, 1))) : 1,
    symbology,
    items: codeSheet === '' ? ids(search.get('items')) : [],
    bins: codeSheet === '' ? ids(search.get('bins')) : [],
    lots: codeSheet === '' ? ids(search.get('lots')) : [],
    binsOfSite: of('site'),
    itemsOfCategory: of('category'),
  };
  const asked = useDelayed(body, 250);
  const chosen = codeSheet !== '' || body.items.length + body.bins.length + body.lots.length > 0;
  const ready = chosen && asked.binsOfSite === body.binsOfSite && asked.itemsOfCategory === body.itemsOfCategory;
  const { currentData, error } = usePreviewLabelsQuery({ body: asked }, { skip: !ready });
  const { refused, at } = refusalOf({ error, isLoading: false }, printing);
  const go = async () => {
    const key = newRequestKey();
    setKey(key);
    const { data } = await print({ body, key });
    setKey(null);
    if (data) setDone({ id: data.id, said: `Printed ${count(data.labels, 'label')} on ${count(data.pages, 'page')}.`, of: JSON.stringify(body) });
  };
  return (
    <Split>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1>Labels</h1>
          <span className="quiet">
            {currentData ? `${count(currentData.labels, 'label')} on ${count(currentData.pages, 'page')}; the first page is shown` : ''}
          </span>
        </PageHead>
        {done?.of === JSON.stringify(body) ? (
          <Notice kind="done">
            {done.said}{' '}
            <a href={`/api/printing/jobs/${done.id}/pdf`} target="_blank" rel="noreferrer">
              Open the PDF
            </a>
          </Notice>
        ) : null}
        <Refused error={refused} />
        <WorkProgress of={key} what="labels" />
        {chosen ? null : (
          <Card state component="p">
            Nothing is chosen yet. Tick <Link to="/items">items</Link> or <Link to="/setup/bins">bins</Link> in their lists, or open a{' '}
            <Link to="/items/units">lot or unit</Link>, and ask for labels there; or take a code sheet of a whole site or category here.
          </Card>
        )}
        {currentData ? <div className="paper" role="img" aria-label="The first page of labels" dangerouslySetInnerHTML={{ __html: currentData.svg }} /> : null}
      </Stack>
      <Stack>
        <PaperCard form={form} put={put} at={at} />
        <PrintedLast />
      </Stack>
      <BottomBar
        hint="Printed at true size: leave scaling off in the printer’s own settings"
        next={{ label: `Print ${count(currentData?.labels ?? 0, 'label')}`, run: () => void go(), disabled: !currentData || printing.isLoading }}
      />
    </Split>
  );
}
