import Button from '@mui/material/Button';
import { letterWords } from '@larder/core/post/template';
import type { orderLetter } from '@larder/contract/post';
import type { ResponseOf } from '@larder/contract/endpoint';
import { useNavigate, useParams } from 'react-router';
import { BottomBar } from '../../kit/BottomBar';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useSay } from '../../shared/say';
import {
  useInvoiceLetterQuery,
  useKeepInvoiceTemplateMutation,
  useKeepSaleTemplateMutation,
  useKeepTemplateMutation,
  useOrderLetterQuery,
  useSaleLetterQuery,
  useSendInvoiceMutation,
  useSendOrderMutation,
  useSendSaleMutation,
} from './api';

type Letter = ResponseOf<typeof orderLetter>;
interface LetterForm {
  to: string;
  subject: string;
  text: string;
}
type WordsForm = Omit<LetterForm, 'to'>;
const letters = fieldsOf<LetterForm>();
const words = fieldsOf<WordsForm>();

interface Sending {
  letter: Letter | undefined;
  error: unknown;
  /** Where the paper that goes with it can be looked at. */
  paper: string;
  send: (body: LetterForm) => PromiseLike<{ data?: unknown; error?: unknown }>;
  keep: (body: WordsForm) => PromiseLike<{ data?: unknown; error?: unknown }>;
}

/** Sending a purchase order to its supplier. */
export function SendPage() {
  const params = { id: Number(useParams()['id']) };
  const { currentData, error } = useOrderLetterQuery({ params });
  const [send] = useSendOrderMutation();
  const [keep] = useKeepTemplateMutation();
  return (
    <Sent
      letter={currentData}
      error={error}
      paper={`/api/post/orders/${params.id}/paper`}
      send={(body) => send({ params, body })}
      keep={(body) => keep({ body })}
    />
  );
}

/** Sending a quote, or the confirmation of an order, to its customer. */
export function SendSalePage() {
  const params = { id: Number(useParams()['id']) };
  const { currentData, error } = useSaleLetterQuery({ params });
  const [send] = useSendSaleMutation();
  const [keep] = useKeepSaleTemplateMutation();
  const kind = currentData?.kind === 'quote' ? 'quote' : 'confirmation';
  return (
    <Sent
      letter={currentData}
      error={error}
      paper={`/api/post/sales/${params.id}/paper`}
      send={(body) => send({ params, body })}
      keep={(body) => keep({ params: { kind }, body })}
    />
  );
}

/** Sending an invoice or credit note to its customer. */
export function SendInvoicePage() {
  const params = { id: Number(useParams()['id']) };
  const { currentData, error } = useInvoiceLetterQuery({ params });
  const [send] = useSendInvoiceMutation();
  const [keep] = useKeepInvoiceTemplateMutation();
  const kind = currentData?.kind === 'credit note' ? 'credit note' : 'invoice';
  return (
    <Sent
      letter={currentData}
      error={error}
      paper={`/api/invoices/${params.id}/paper`}
      send={(body) => send({ params, body })}
      keep={(body) => keep({ params: { kind }, body })}
    />
  );
}

function Sent({ letter, error, ...sending }: Sending) {
  useTitle(letter ? `Send ${letter.number}` : 'Send');
  if (!letter) return <Waiting error={error} />;
  return <LetterSheet key={JSON.stringify(letter.template)} letter={letter} {...sending} />;
}

type SheetProps = Omit<Sending, 'letter' | 'error'> & { letter: Letter };

/** The letter is looked over before it is sent. */
function LetterSheet({ letter, paper, send, keep }: SheetProps) {
  const navigate = useNavigate();
  const say = useSay();
  const form = useForm({
    came: { to: letter.to, subject: letter.subject, text: letter.text },
    body: (typed: LetterForm) => typed,
    checkedBy: async () => (await import('@larder/contract/post')).sendOrder.body,
  });
  const post = async () => {
    if (!(await form.send(send))) return;
    say({ text: `${letter.number} is sent.` });
    void navigate(`/post?q=${letter.number}`);
  };
  return (
    <Split>
      <FormFrame form={form} save={() => void post()}>
        <Stack>
          <PageHead sx={{ margin: 0 }}>
            <h1>Send {letter.number}</h1>
            <span className="quiet">
              {letter.kind}, to {letter.party}
            </span>
          </PageHead>
          <Refused error={form.refused} />
          <Card pad stack aria-label="Letter">
            <letters.Field label="To" name="to" type="email" />
            <letters.Field label="Subject" name="subject" />
            <letters.LongField label="Letter" name="text" rows={16} />
            <p>
              Attached:{' '}
              <a href={paper} target="_blank" rel="noreferrer">
                {letter.number}.pdf
              </a>
            </p>
          </Card>
        </Stack>
      </FormFrame>
      <TemplateSheet letter={letter} keep={keep} />
      <BottomBar hint="It is kept in the post room" next={{ label: `Send ${letter.number}`, run: () => void post(), disabled: form.isBusy }} />
    </Split>
  );
}

/** The words every letter of its kind is sent with. */
function TemplateSheet({ letter, keep }: Pick<SheetProps, 'letter' | 'keep'>) {
  const say = useSay();
  const every = letter.kind === 'purchase order' ? 'order' : letter.kind;
  const form = useForm({
    came: { subject: letter.template.subject, text: letter.template.text },
    body: (typed: WordsForm) => typed,
    checkedBy: async () => (await import('@larder/contract/post')).keepTemplate.body,
  });
  const save = async () => {
    if (await form.send(keep)) say({ text: `These words are kept for every ${every}.` });
  };
  return (
    <FormFrame form={form} save={() => void save()}>
      <Card aria-label={`Words of every ${every}`}>
        <h2>
          Words of every {every}
          <span>what stands in braces is filled in</span>
        </h2>
        <Stack pad>
          <Refused error={form.refused} />
          <words.Field label={`Subject of every ${every}`} name="subject" />
          <words.LongField label={`Letter of every ${every}`} name="text" rows={14} />
          <p className="quiet">{letterWords[letter.kind].map((word) => `{${word}}`).join(' ')}</p>
          <Button disabled={!form.isTyped || form.isBusy} onClick={() => void save()}>
            Keep these words
          </Button>
        </Stack>
      </Card>
    </FormFrame>
  );
}
