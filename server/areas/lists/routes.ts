import * as contract from '@larder/contract/lists';
import type { Serve } from '../../http/route';
import { forgetView, keepLayout, keepView, keptLayouts, keptViews } from './service';

export function listRoutes(serve: Serve): void {
  serve(contract.keptViews, async (act) => ({ rows: await keptViews(act) }));
  serve(contract.keepView, (act, { body }) => keepView(act, body));
  serve(contract.keptLayouts, async (act) => ({ rows: await keptLayouts(act) }));
  serve(contract.keepLayout, (act, { body }) => keepLayout(act, body));
  serve(contract.forgetView, (act, { params }) => forgetView(act, params.id));
}
