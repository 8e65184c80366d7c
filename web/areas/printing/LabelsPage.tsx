import { newRequestKey } from '@larder/contract/requestKey';
import { useState } from 'react';
import { useWatch } from 'react-hook-form';
import { Link, useSearchParams } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { useDelayed } from '../../kit/delayed';
import { useForm } from '../../kit/form';
import { FormFrame } from '../../kit/FormFrame';
import { count } from '../../kit/format';
import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { Notice } from '../../kit/Notice';
import { problemOf } from '../../kit/problem';
import { Refused } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { WorkProgress } from '../../shared/work';
import { usePreviewLabelsQuery, usePrintLabelsMutation } from './api';
import { ids, paperForm, sentAs, sentLabels, type PaperForm } from './labelForm';
import { PaperCard } from './PaperCard';
import { PrintedLast } from './PrintedLast';

/** Labels for items, bins, lots and serial units, or a code sheet for the bench: on which paper, seen before it is printed. */
export function LabelsPage() {
  useTitle('Labels');
  const [search] = useSearchParams();
  const site = /^site-(\d+)$/.exec(search.get('bins') ?? '');
  const wanted = { items: ids(search.get('items')), bins: ids(search.get('bins')), lots: ids(search.get('lots')) };
  const form = useForm({
    came: paperForm(site ? `site-${site[1] ?? ''}` : ''),
    body: (typed: PaperForm) => sentLabels(typed, wanted),
    checkedBy: async () => (await import('@larder/contract/printing')).LabelForm,
    sentAs,
  });
  const body = sentLabels(useWatch({ control: form.control }) as PaperForm, wanted);
  const [done, setDone] = useState<{ id: number; said: string; of: string } | null>(null);
  const [key, setKey] = useState<string | null>(null);
  const [print] = usePrintLabelsMutation();
  const asked = useDelayed(body, 250);
  const chosen = body.binsOfSite !== null || body.itemsOfCategory !== null || body.items.length + body.bins.length + body.lots.length > 0;
  const ready = chosen && asked.binsOfSite === body.binsOfSite && asked.itemsOfCategory === body.itemsOfCategory;
  const { data: last, currentData, error } = usePreviewLabelsQuery({ body: asked }, { skip: !ready });
  // The last one stays until the next is there, so that nothing jumps and no click is lost meanwhile.
  const shown = error || !chosen ? undefined : (currentData ?? last);
  const foreseen = problemOf(error);
  const go = async () => {
    const printed = await form.send(async (sent) => {
      const key = newRequestKey();
      setKey(key);
      const result = await print({ body: sent, key });
      setKey(null);
      return result;
    });
    if (printed) setDone({ id: printed.id, said: `Printed ${count(printed.labels, 'label')} on ${count(printed.pages, 'page')}.`, of: JSON.stringify(body) });
  };
  return (
    <FormFrame form={form} save={() => void go()} foreseen={foreseen} fleeting>
      <Split>
        <Stack>
          <PageHead sx={{ margin: 0 }}>
            <h1>Labels</h1>
            <span className="quiet">{shown ? `${count(shown.labels, 'label')} on ${count(shown.pages, 'page')}; the first page is shown` : ''}</span>
          </PageHead>
          {done?.of === JSON.stringify(body) ? (
            <Notice kind="done">
              {done.said}{' '}
              <a href={`/api/printing/jobs/${done.id}/pdf`} target="_blank" rel="noreferrer">
                Open the PDF
              </a>
            </Notice>
          ) : null}
          <Refused error={form.refused ?? (foreseen && foreseen.errors.length === 0 ? foreseen : null)} />
          <WorkProgress of={key} what="labels" />
          {chosen ? null : (
            <Card state component="p">
              Nothing is chosen yet. Tick <Link to="/items">items</Link> or <Link to="/setup/bins">bins</Link> in their lists, or open a{' '}
              <Link to="/items/units">lot or unit</Link>, and ask for labels there; or take a code sheet of a whole site or category here.
            </Card>
          )}
          {shown ? <div className="paper" role="img" aria-label="The first page of labels" dangerouslySetInnerHTML={{ __html: shown.svg }} /> : null}
        </Stack>
        <Stack>
          <PaperCard />
          <PrintedLast />
        </Stack>
        <BottomBar
          hint="Printed at true size: leave scaling off in the printer’s own settings"
          next={{ label: `Print ${count(shown?.labels ?? 0, 'label')}`, run: () => void go(), disabled: !chosen || form.isBusy }}
        />
      </Split>
    </FormFrame>
  );
}
