import * as contract from '@larder/contract/lists';
import type { Serve } from '../../http/route';
import { forgetView, keepView, keptViews } from './service';

export function listRoutes(serve: Serve): void {
  serve(contract.keptViews, async (act) => ({ rows: await keptViews(act) }));
  serve(contract.keepView, (act, { body }) => keepView(act, body));
  serve(contract.forgetView, (act, { params }) => forgetView(act, params.id));
}
