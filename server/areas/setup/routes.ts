import * as contract from '@larder/contract/setup';
import { lastChange } from '../../documents/changes';
import type { Serve } from '../../http/route';
import { bins, parties, reference } from './queries';
import { createBins, createCategory, createParty, createSite, createUnit, editBins, editCompany, editCategory, editParty, retireSite } from './service';

export function setupRoutes(serve: Serve): void {
  serve(contract.reference, (act) => reference(act));
  serve(contract.lastChange, async (act, { query }) => ({ last: await lastChange(act, query.kind, query.id) }));
  serve(contract.listBins, async (act, { query }) => ({ rows: await bins(act, query) }));
  serve(contract.editCompany, (act, { body }) => editCompany(act, body));
  serve(contract.createSite, (act, { body }) => createSite(act, body));
  serve(contract.createBins, (act, { body }) => createBins(act, body));
  serve(contract.editBins, (act, { body }) => editBins(act, body));
  serve(contract.retireSite, (act, { params, body }) => retireSite(act, params.id, body.retired));
  serve(contract.createCategory, (act, { body }) => createCategory(act, body));
  serve(contract.editCategory, (act, { params, body }) => editCategory(act, params.id, body));
  serve(contract.createUnit, (act, { body }) => createUnit(act, body));
  serve(contract.listParties, async (act, { query }) => ({ rows: await parties(act, query) }));
  serve(contract.createParty, (act, { body }) => createParty(act, body));
  serve(contract.editParty, (act, { params, body }) => editParty(act, params.id, body));
}
