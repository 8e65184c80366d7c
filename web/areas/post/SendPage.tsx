import Button from '@mui/material/Button';
import { Card, PageHead, Split, Stack } from '../../kit/layout';
import { useNavigate, useParams } from 'react-router';
import { orderWords } from '@larder/core/post/template';
import type { orderLetter } from '@larder/contract/post';
import type { ResponseOf } from '@larder/contract/endpoint';
import { BottomBar } from '../../kit/BottomBar';
import { useForm } from '../../kit/form';
import { fieldsOf } from '../../kit/formFields';
import { FormFrame } from '../../kit/FormFrame';
import { Refused, Waiting } from '../../kit/states';
import { useTitle } from '../../kit/title';
import { useSay } from '../../shared/say';
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

interface LetterForm {
  to: string;
  subject: string;
  text: string;
}
type WordsForm = Omit<LetterForm, 'to'>;
const letters = fieldsOf<LetterForm>();
const words = fieldsOf<WordsForm>();

function LetterSheet({ id, letter }: { id: number; letter: Letter }) {
  const navigate = useNavigate();
  const say = useSay();
  const [send] = useSendOrderMutation();
  const form = useForm({
    came: { to: letter.to, subject: letter.subject, text: letter.text },
    body: (typed: LetterForm) => typed,
    checkedBy: async () => (await import('@larder/contract/post')).sendOrder.body,
  });
  const post = async () => {
    if (!(await form.send((body) => send({ params: { id }, body })))) return;
    say({ text: `${letter.number} is sent.` });
    void navigate(`/post?q=${letter.number}`);
  };
  return (
    <Split>
      <FormFrame form={form} save={() => void post()}>
        <Stack>
          <PageHead sx={{ margin: 0 }}>
            <h1>Send {letter.number}</h1>
            <span className="quiet">to {letter.supplier}</span>
          </PageHead>
          <Refused error={form.refused} />
          <Card pad stack aria-label="Letter">
            <letters.Field label="To" name="to" type="email" />
            <letters.Field label="Subject" name="subject" />
            <letters.LongField label="Letter" name="text" rows={16} />
            <p>
              Attached:{' '}
              <a href={`/api/post/orders/${id}/paper`} target="_blank" rel="noreferrer">
                {letter.number}.pdf
              </a>
            </p>
          </Card>
        </Stack>
      </FormFrame>
      <TemplateSheet letter={letter} />
      <BottomBar hint="It is kept in the post room" next={{ label: `Send ${letter.number}`, run: () => void post(), disabled: form.isBusy }} />
    </Split>
  );
}

/** The words every order is sent with. */
function TemplateSheet({ letter }: { letter: Letter }) {
  const [keep] = useKeepTemplateMutation();
  const say = useSay();
  const form = useForm({
    came: { subject: letter.template.subject, text: letter.template.text },
    body: (typed: WordsForm) => typed,
    checkedBy: async () => (await import('@larder/contract/post')).keepTemplate.body,
  });
  const save = async () => {
    if (await form.send((body) => keep({ body }))) say({ text: 'These words are kept for every order.' });
  };
  return (
    <FormFrame form={form} save={() => void save()}>
      <Card aria-label="Words of every order">
        <h2>
          Words of every order<span>what stands in braces is filled in</span>
        </h2>
        <Stack pad>
          <Refused error={form.refused} />
          <words.Field label="Subject of every order" name="subject" />
          <words.LongField label="Letter of every order" name="text" rows={14} />
          <p className="quiet">{orderWords.map((word) => `{${word}}`).join(' ')}</p>
          <Button disabled={!form.isTyped || form.isBusy} onClick={() => void save()}>
            Keep these words
          </Button>
        </Stack>
      </Card>
    </FormFrame>
  );
}
