import * as contract from '@larder/contract/invoices';
import type { Serve } from '../../http/route';
import { debtors, debtorsInAll, statement } from './accounts';
import { creditInvoice } from './credit';
import { createInvoice, createInvoices } from './service';
import { recordMoney, undoMoney } from './money';
import { paperOfInvoice, paperOfStatement } from './paper';
import { handOver, invoices, invoicesInAll, oneInvoice, proposeInvoice } from './queries';
import { toInvoice, toInvoiceInAll } from './toInvoice';

export function invoiceRoutes(serve: Serve): void {
  serve(contract.listInvoices, (act, { query }) => invoices(act, query));
  serve(contract.invoicesInAll, (act, { query }) => invoicesInAll(act, query));
  serve(contract.listToInvoice, (act, { query }) => toInvoice(act, query));
  serve(contract.toInvoiceInAll, (act, { query }) => toInvoiceInAll(act, query));
  serve(contract.proposeInvoice, (act, { query }) => proposeInvoice(act, query));
  serve(contract.listDebtors, (act, { query }) => debtors(act, query));
  serve(contract.debtorsInAll, (act, { query }) => debtorsInAll(act, query));
  serve(contract.getStatement, (act, { query }) => statement(act, query));
  serve(contract.statementPaper, (act, { query }) => paperOfStatement(act, query));
  serve(contract.getInvoice, (act, { params }) => oneInvoice(act, params.id));
  serve(contract.invoicePaper, (act, { params }) => paperOfInvoice(act, params.id));
  serve(contract.createInvoice, (act, { body }) => createInvoice(act, body));
  serve(contract.createInvoices, (act, { body }) => createInvoices(act, body));
  serve(contract.creditInvoice, (act, { params, body }) => creditInvoice(act, params.id, body));
  serve(contract.handOverInvoice, (act, { params, body }) => handOver(act, params.id, body.handedOver));
  serve(contract.recordMoney, (act, { body }) => recordMoney(act, body));
  serve(contract.undoMoney, (act, { params }) => undoMoney(act, params.id));
}
