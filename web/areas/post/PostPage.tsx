import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { Card, Stack } from '../../kit/layout';
import { Link } from 'react-router';
import type { Letter } from '@larder/contract/post';
import { useAddress } from '../../kit/address';
import { moment } from '../../kit/format';
import { ListPage } from '../../kit/ListPage';
import type { Column } from '../../kit/ListTable';
import { useGoing } from '../../kit/going';
import { useTitle } from '../../kit/title';
import { useMay } from '../../shared/may';
import {
  useLettersInfiniteQuery,
  useSendAgainMutation,
  useSendInvoiceAgainMutation,
  useSendNoticeAgainMutation,
  useSendRecallAgainMutation,
  useSendSaleAgainMutation,
} from './api';

type About = NonNullable<Letter['about']>;
const pages: Record<About['kind'], string> = { purchase: '/inbound/orders', sale: '/outbound/orders', invoice: '/books/invoices', lot: '/stock/lots' };
const papers: Record<Exclude<About['kind'], 'lot'>, string> = { purchase: '/api/post/orders', sale: '/api/post/sales', invoice: '/api/invoices' };
const pageOf = ({ kind, id }: About): string => `${pages[kind]}/${id}`;
/** Nothing goes with a recall. */
const paperOf = ({ kind, id }: About): string => (kind === 'lot' ? pageOf({ kind, id, number: '' }) : `${papers[kind]}/${id}/paper`);

const stateOf = (letter: Letter): string =>
  letter.state === 'sent' ? (letter.delivered ? 'taken in by our own mail server' : 'sent') : letter.state === 'waiting' ? 'on its way' : 'not sent';

const columns: Column<Letter>[] = [
  { name: 'Subject', text: (row) => row.subject, cell: (row) => <span className="strong">{row.subject}</span> },
  { name: 'To', cell: (row) => row.to },
  { name: 'About', wide: true, cell: (row) => <span className="code">{row.about?.number}</span> },
  { name: 'State', cell: (row) => <span className={row.state === 'not sent' ? 'late' : ''}>{stateOf(row)}</span> },
  { name: 'Written', cell: (row) => <span className="quiet">{moment(row.writtenAt)}</span> },
];

/** The post room: letters as they went out, with what is attached. */
export function PostPage() {
  useTitle('Post room');
  const address = useAddress();
  const question = { q: address.get('q') };
  const useList = () => useGoing(useLettersInfiniteQuery({ query: question }, { pollingInterval: 4000 }));
  const mayOrder = useMay('inbound.order');
  const maySell = useMay('outbound.sell');
  const mayInvoice = useMay('books.invoice');
  const maySetUp = useMay('setup.edit');
  const may = { purchase: mayOrder, sale: maySell, invoice: mayInvoice, lot: maySell, notice: maySetUp };
  const [again, { isLoading }] = useSendAgainMutation();
  const [saleAgain] = useSendSaleAgainMutation();
  const [invoiceAgain] = useSendInvoiceAgainMutation();
  const [recallAgain] = useSendRecallAgainMutation();
  const [noticeAgain] = useSendNoticeAgainMutation();
  const tryAgain = { purchase: again, sale: saleAgain, invoice: invoiceAgain, lot: recallAgain, notice: noticeAgain };
  return (
    <ListPage
      title="Post room"
      address={address}
      find={{ label: 'Find letters', placeholder: 'Subject, address or order' }}
      noun="letter"
      columns={columns}
      useList={useList}
      question={question}
      keyOf={({ id }) => id}
      hrefOf={({ about, notice }) => (about ? pageOf(about) : (notice?.leadsTo ?? '/post'))}
      empty="Nothing was sent yet. Purchase orders, quotes, confirmations and invoices are sent from their own pages."
      peek={(row) => <LetterPeek letter={row} />}
      next={(row) => {
        const kind = row?.state === 'not sent' ? (row.about?.kind ?? (row.notice ? 'notice' : undefined)) : undefined;
        return row && kind && may[kind]
          ? { label: 'Try it again', run: () => void tryAgain[kind]({ params: { id: row.id } }), disabled: isLoading }
          : undefined;
      }}
      actions={(row) =>
        row ? (
          <Button href={`/api/post/letters/${row.id}/file`} download={`letter-${row.id}.eml`}>
            Export as .eml
          </Button>
        ) : null
      }
    />
  );
}

function LetterPeek({ letter }: { letter: Letter }) {
  return (
    <Card component="aside" aria-label={`About ${letter.subject}`}>
      <h2>
        {letter.subject}
        <span>{stateOf(letter)}</span>
      </h2>
      <Stack pad>
        {letter.fault ? <p className="late">{letter.fault}</p> : null}
        <p className="quiet">
          {letter.person ?? 'Tidy Larder by itself'} to {letter.to}
        </p>
        <Box component="p" sx={{ whiteSpace: 'pre-wrap' }}>
          {letter.notice?.text ?? (letter.recall || letter.text)}
        </Box>
        {letter.attached.map((name) => (
          <p key={name} className="quiet">
            Attached: {letter.about ? <a href={paperOf(letter.about)}>{name}</a> : name}
          </p>
        ))}
        {letter.about ? <Link to={pageOf(letter.about)}>Open {letter.about.number}</Link> : null}
        {letter.notice ? <Link to={letter.notice.leadsTo}>Open what it is about</Link> : null}
      </Stack>
    </Card>
  );
}
