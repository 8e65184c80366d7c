import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { letterWords } from '@larder/core/post/template';
import type { recallList, RecallRow } from '@larder/contract/recalls';
import type { ResponseOf } from '@larder/contract/endpoint';
import { useWatch } from 'react-hook-form';
import { Link, useParams } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { count, moment, quantity } from '../../kit/format';
import { CellCheck } from '../../kit/Check';
import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useMay } from '../../shared/may';
import { useSay } from '../../shared/say';
import { useKeepRecallTemplateMutation, useRecallQuery, useSendRecallMutation } from './api';

type Recall = ResponseOf<typeof recallList>;
interface ToRow extends RecallRow {
  isChosen: boolean;
  to: string;
}
interface RecallDraft {
  rows: ToRow[];
  subject: string;
  text: string;
}
const { Cell, Field, LongField } = fieldsOf<RecallDraft>();
const rowKeys = { rows: ({ partyId, holds, sku, lot }: ToRow): string => `${partyId} ${holds} ${sku} ${lot}` };
/** Somebody who bought it and has it on loan as well gets one letter. */
const chosenOf = (rows: readonly ToRow[]): ToRow[] => {
  const chosen = rows.filter(({ isChosen }) => isChosen);
  return chosen.filter((row, index) => chosen.findIndex(({ partyId }) => partyId === row.partyId) === index);
};

/** Whom to write to about a lot or unit, and what: each gets a letter with what they have of it. */
export function RecallPage() {
  const id = Number(useParams()['id']);
  const { data, error } = useRecallQuery({ params: { id } });
  useTitle(data ? `Recall ${data.lot}` : 'Recall');
  if (!data) return <Waiting error={error} />;
  return <Sheet key={JSON.stringify(data.template)} id={id} recall={data} />;
}

function Sheet({ id, recall }: { id: number; recall: Recall }) {
  const say = useSay();
  const [send] = useSendRecallMutation();
  const [keep, keeping] = useKeepRecallTemplateMutation();
  const mayKeep = useMay('outbound.sell', null);
  const form = useForm({
    came: {
      rows: recall.rows.map((row): ToRow => ({ ...row, to: row.email, isChosen: row.written.length === 0 && row.email !== '' })),
      ...recall.template,
    } as RecallDraft,
    rowKeys,
    body: ({ rows, subject, text }: RecallDraft) => ({ subject, text, to: chosenOf(rows).map(({ partyId, to }) => ({ partyId, to })) }),
    checkedBy: async () => (await import('@larder/contract/recalls')).sendRecall.body,
    sentAs: (path, { rows }: RecallDraft) => {
      const [list, nth] = path.split('.');
      const row = list === 'to' ? chosenOf(rows)[Number(nth)] : undefined;
      return row ? `rows.${rows.indexOf(row)}.to` : path;
    },
  });
  const typed = useWatch({ control: form.control }) as RecallDraft;
  const chosen = chosenOf(typed.rows);
  const post = async () => {
    const sent = await form.send((body) => send({ params: { id }, body }));
    if (!sent) return;
    say({ text: `${count(sent.letters, 'letter')} about ${recall.lot} ${sent.letters === 1 ? 'is' : 'are'} on the way.` });
    typed.rows.forEach((_, index) => form.setValue(`rows.${index}.isChosen`, false));
  };
  const without = typed.rows.filter(({ to }) => to.trim() === '').length;
  return (
    <FormFrame form={form} save={() => void post()}>
      <Split>
        <Stack>
          <PageHead sx={{ margin: 0 }}>
            <h1>
              Recall <span className="code">{recall.lot}</span>
            </h1>
            <Link to={`/stock/lots/${id}`}>
              <span className="code">{recall.sku}</span> {recall.name}
            </Link>
            <span className="quiet">
              {quantity(recall.quantity)} with {count(recall.rows.length, 'party', 'parties')}
            </span>
          </PageHead>
          <Refused error={form.refused} />
          <Card component="div" sheet>
            <Table aria-label="Whom to write to" className="floor">
              <TableHead>
                <TableRow>
                  <TableCell />
                  <TableCell>Who</TableCell>
                  <TableCell align="right">Has</TableCell>
                  <TableCell>Mail address</TableCell>
                  <TableCell>Written to</TableCell>
                </TableRow>
              </TableHead>
              <TableBody>
                {typed.rows.map((row, index) => (
                  <TableRow key={rowKeys.rows(row)}>
                    <TableCell>
                      <CellCheck
                        label={`Write to ${row.who}`}
                        checked={row.isChosen}
                        onChange={(isChosen) => form.setValue(`rows.${index}.isChosen`, isChosen, { shouldDirty: true })}
                      />
                    </TableCell>
                    <TableCell>
                      <b>{row.who}</b>
                      <small className="quiet name">
                        {row.holds}: {row.documents.join(', ')}
                      </small>
                      {row.sku === recall.sku && row.lot === recall.lot ? null : (
                        <small className="name">
                          made of it: <span className="code">{row.sku}</span> {row.lot}
                        </small>
                      )}
                    </TableCell>
                    <TableCell align="right">{quantity(row.quantity)}</TableCell>
                    <TableCell className="under">
                      <Cell tall width={230} label={`Mail address of ${row.who}`} name={`rows.${index}.to`} placeholder="none known" />
                    </TableCell>
                    <TableCell className="quiet">
                      {(recall.rows.find((one) => one.partyId === row.partyId)?.written ?? []).map(({ letterId, at, state }) => (
                        <Box key={letterId} component="small" sx={{ display: 'block' }}>
                          <Link to={`/post?q=${encodeURIComponent(recall.lot)}`}>{moment(at)}</Link>
                          {state === 'sent' ? '' : `, ${state}`}
                        </Box>
                      ))}
                    </TableCell>
                  </TableRow>
                ))}
              </TableBody>
            </Table>
            {recall.rows.length === 0 ? <p className="pad quiet">Nobody has any of it.</p> : null}
          </Card>
          {without > 0 ? <p className="quiet">{count(without, 'of them has', 'of them have')} no mail address here: look them up, or ring them.</p> : null}
        </Stack>
        <Card pad stack aria-label="Letter">
          <Field label="Subject" name="subject" />
          <LongField label="Letter" name="text" rows={14} />
          <p className="quiet">Filled in for each: {letterWords.recall.map((word) => `{${word}}`).join(' ')}</p>
          {mayKeep ? (
            <Button
              disabled={keeping.isLoading}
              onClick={() =>
                void keep({ body: { subject: typed.subject, text: typed.text } }).then(
                  ({ data }) => data && say({ text: 'These words are kept for every recall.' }),
                )
              }
            >
              Keep these words
            </Button>
          ) : null}
        </Card>
        <BottomBar
          hint="Each gets a letter of their own; all are kept in the post room"
          next={{ label: `Send ${count(chosen.length, 'letter')}`, run: () => void post(), disabled: form.isBusy || chosen.length === 0 }}
        >
          <Button href={`/api/stock/lots/${id}/trace/file`} download>
            Export as CSV
          </Button>
        </BottomBar>
      </Split>
    </FormFrame>
  );
}
