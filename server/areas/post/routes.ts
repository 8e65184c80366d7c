import * as contract from '@larder/contract/post';
import type { Serve } from '../../http/route';
import { letterFile, letters } from './queries';
import { keepTemplate, orderLetter, paperOfOrder, sendAgain, sendOrder } from './service';

export function postRoutes(serve: Serve): void {
  serve(contract.orderLetter, (act, { params }) => orderLetter(act, params.id));
  serve(contract.orderPaper, (act, { params }) => paperOfOrder(act, params.id));
  serve(contract.sendOrder, (act, { params, body }) => sendOrder(act, params.id, body));
  serve(contract.keepTemplate, (act, { body }) => keepTemplate(act, body));
  serve(contract.listLetters, (act, { query }) => letters(act, query));
  serve(contract.letterFile, (act, { params }) => letterFile(act, params.id));
  serve(contract.sendAgain, (act, { params }) => sendAgain(act, params.id));
}
