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
import { useLettersInfiniteQuery, useSendAgainMutation } from './api';

const stateOf = (letter: Letter): string =>
  letter.state === 'sent' ? (letter.delivered ? 'taken in by our own mail server' : 'sent') : letter.state === 'waiting' ? 'on its way' : 'not sent';

const columns: Column<Letter>[] = [
  { name: 'Subject', text: (row) => row.subject, cell: (row) => <span className="strong">{row.subject}</span> },
  { name: 'To', cell: (row) => row.to },
  { name: 'About', wide: true, cell: (row) => <span className="code">{row.order}</span> },
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
  const [again, { isLoading }] = useSendAgainMutation();
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
      hrefOf={({ orderId }) => `/inbound/orders/${orderId ?? ''}`}
      empty="Nothing was sent yet. A purchase order is sent to its supplier from its own page."
      peek={(row) => <LetterPeek letter={row} />}
      next={(row) =>
        row?.state === 'not sent' && mayOrder ? { label: 'Try it again', run: () => void again({ params: { id: row.id } }), disabled: isLoading } : undefined
      }
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
          {letter.person} to {letter.to}
        </p>
        <Box component="p" sx={{ whiteSpace: 'pre-wrap' }}>
          {letter.text}
        </Box>
        {letter.attached.map((name) => (
          <p key={name} className="quiet">
            Attached: {letter.orderId ? <a href={`/api/post/orders/${letter.orderId}/paper`}>{name}</a> : name}
          </p>
        ))}
        {letter.orderId ? <Link to={`/inbound/orders/${letter.orderId}`}>Open {letter.order}</Link> : null}
      </Stack>
    </Card>
  );
}
