import * as contract from '@larder/contract/post';
import * as recalls from '@larder/contract/recalls';
import type { Serve } from '../../http/route';
import { aboutInvoice, aboutPurchase, aboutSale, paperOfPurchase, paperOfSale } from './about';
import { letterFile, letters } from './queries';
import { recallList, sendRecall } from './recall';
import { keepTemplate, letterOf, send, sendAgain } from './service';

export function postRoutes(serve: Serve): void {
  serve(contract.orderLetter, async (act, { params }) => letterOf(act, await aboutPurchase(act, params.id)));
  serve(contract.orderPaper, (act, { params }) => paperOfPurchase(act, params.id));
  serve(contract.sendOrder, async (act, { params, body }) => send(act, await aboutPurchase(act, params.id), body));
  serve(contract.keepTemplate, (act, { body }) => {
    act.allow('inbound.order', null);
    return keepTemplate(act, 'purchase order', body);
  });
  serve(contract.saleLetter, async (act, { params }) => letterOf(act, await aboutSale(act, params.id)));
  serve(contract.salePaper, (act, { params }) => paperOfSale(act, params.id));
  serve(contract.sendSale, async (act, { params, body }) => send(act, await aboutSale(act, params.id), body));
  serve(contract.keepSaleTemplate, (act, { params, body }) => {
    act.allow('outbound.sell', null);
    return keepTemplate(act, params.kind, body);
  });
  serve(contract.invoiceLetter, async (act, { params }) => letterOf(act, await aboutInvoice(act, params.id)));
  serve(contract.sendInvoice, async (act, { params, body }) => send(act, await aboutInvoice(act, params.id), body));
  serve(contract.keepInvoiceTemplate, (act, { params, body }) => keepTemplate(act, params.kind, body));
  serve(contract.listLetters, (act, { query }) => letters(act, query));
  serve(contract.letterFile, (act, { params }) => letterFile(act, params.id));
  serve(contract.sendAgain, (act, { params }) => sendAgain(act, params.id, 'purchase'));
  serve(contract.sendSaleAgain, (act, { params }) => sendAgain(act, params.id, 'sale'));
  serve(contract.sendRecallAgain, (act, { params }) => sendAgain(act, params.id, 'lot'));
  serve(recalls.recallList, (act, { params }) => recallList(act, params.id));
  serve(recalls.sendRecall, (act, { params, body }) => sendRecall(act, params.id, body));
  serve(recalls.keepRecallTemplate, (act, { body }) => {
    act.allow('outbound.sell', null);
    return keepTemplate(act, 'recall', body);
  });
  serve(contract.sendNoticeAgain, (act, { params }) => sendAgain(act, params.id, 'notice'));
  serve(contract.sendInvoiceAgain, (act, { params }) => sendAgain(act, params.id, 'invoice'));
}
