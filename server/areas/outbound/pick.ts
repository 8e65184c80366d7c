import type * as contract from '@larder/contract/picking';
import type { BodyOf } from '@larder/contract/endpoint';
import type { Act } from '../../act';
import { takeToBench } from '../../documents/goingOut';
import type { Posting } from '../../ledger/door';
import { goingOrder } from './going';

/** Takes goods from bins to the bench for an order. */
export const pick = async (act: Act, form: BodyOf<typeof contract.pick>): Promise<Posting> => takeToBench(act, await goingOrder(act, form.orderId), form);
