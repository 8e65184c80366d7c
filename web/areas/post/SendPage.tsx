import Button from '@mui/material/Button';
import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { orderWords } from '@larder/core/post/template';
import type { orderLetter } from '@larder/contract/post';
import type { ResponseOf } from '@larder/contract/endpoint';
import { BottomBar } from '../../kit/BottomBar';
import { refusalOf } from '../../kit/draft';
import { Field, LongField } from '../../kit/Field';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useKeepTemplateMutation, useOrderLetterQuery, useSendOrderMutation } from './api';

type Letter = ResponseOf<typeof orderLetter>;

/** Sending a purchase order to its supplier: the letter is looked over first. */
export function SendPage() {
  const { id = '' } = useParams();
  const { data, error } = useOrderLetterQuery({ params: { id: Number(id) } });
  useTitle(data ? `Send ${data.number}` : 'Send order');
  if (!data) return <Waiting error={error} />;
  return <LetterSheet key={JSON.stringify(data.template)} id={Number(id)} letter={data} />;
}

function LetterSheet({ id, letter }: { id: number; letter: Letter }) {
  const navigate = useNavigate();
  const [to, setTo] = useState(letter.to);
  const [subject, setSubject] = useState(letter.subject);
  const [text, setText] = useState(letter.text);
  const [send, sending] = useSendOrderMutation();
  const { refused, busy, at } = refusalOf(sending);
  const post = async () => {
    if (!(await send({ params: { id }, body: { to, subject, text } })).error) void navigate(`/post?q=${letter.number}`);
  };
  return (
    <Split>
      <Stack>
        <PageHead sx={{ margin: 0 }}>
          <h1>Send {letter.number}</h1>
          <span className="quiet">to {letter.supplier}</span>
        </PageHead>
        <Refused error={refused} />
        <Card pad stack aria-label="Letter">
          <Field label="To" value={to} onChange={setTo} error={at('to')} type="email" />
          <Field label="Subject" value={subject} onChange={setSubject} error={at('subject')} />
          <LongField label="Letter" value={text} onChange={setText} error={at('text')} rows={16} />
          <p>
            Attached:{' '}
            <a href={`/api/post/orders/${id}/paper`} target="_blank" rel="noreferrer">
              {letter.number}.pdf
            </a>
          </p>
        </Card>
      </Stack>
      <TemplateSheet letter={letter} />
      <BottomBar hint="It is kept in the post room" next={{ label: `Send ${letter.number}`, run: () => void post(), disabled: busy }} />
    </Split>
  );
}

/** The words every order is sent with. */
function TemplateSheet({ letter }: { letter: Letter }) {
  const [subject, setSubject] = useState(letter.template.subject);
  const [text, setText] = useState(letter.template.text);
  const [keep, keeping] = useKeepTemplateMutation();
  const { refused, busy, at } = refusalOf(keeping);
  const same = subject === letter.template.subject && text === letter.template.text;
  return (
    <Card aria-label="Words of every order">
      <h2>
        Words of every order<span>what stands in braces is filled in</span>
      </h2>
      <Stack pad>
        <Refused error={refused} />
        <Field label="Subject of every order" value={subject} onChange={setSubject} error={at('subject')} />
        <LongField label="Letter of every order" value={text} onChange={setText} error={at('text')} rows={14} />
        <p className="quiet">{orderWords.map((word) => `{${word}}`).join(' ')}</p>
        <Button disabled={same || busy} onClick={() => void keep({ body: { subject, text } })}>
          Keep these words
        </Button>
      </Stack>
    </Card>
  );
}
