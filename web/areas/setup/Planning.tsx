import type { PlanningSet } from '@larder/contract/setup';
import { fieldsOf, wholeOrNone } from '../../kit/formFields';
import { Fields } from '../../kit/layout';
import { Decided } from './Decided';

const { Field } = fieldsOf<{ planning: PlanningSet }>();
const three = { gridTemplateColumns: 'repeat(3, 1fr)' };

/** By what items are of a class, how often each class should be there at once, and what ordering and holding cost. */
export const Planning = ({ now }: { now: PlanningSet }) => (
  <Decided title="Planning" came={{ planning: now }} said="How levels are suggested is kept; look at the past anew to have it counted.">
    <p className="quiet">Sorted by the value used in a year, items are of class A up to the first share of all of it, then of B up to the second, and C.</p>
    <Fields sx={three}>
      <Field label="A up to, per cent" name="planning.shareA" read={wholeOrNone} />
      <Field label="B up to, per cent" name="planning.shareB" read={wholeOrNone} />
    </Fields>
    <p className="quiet">So many of a hundred orders should be served at once. The last few cost most.</p>
    <Fields sx={three}>
      <Field label="Of class A" name="planning.serviceA" />
      <Field label="Of class B" name="planning.serviceB" />
      <Field label="Of class C" name="planning.serviceC" />
    </Fields>
    <p className="quiet">What it costs to place an order and take it in, and what goods cost in a year while they lie: room, money, what spoils.</p>
    <Fields sx={three}>
      <Field label="An order costs" name="planning.orderCost" />
      <Field label="A transfer costs" name="planning.transferCost" />
      <Field label="Holding, per cent a year" name="planning.holdingRate" />
    </Fields>
  </Decided>
);
