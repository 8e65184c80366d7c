import * as contract from '@larder/contract/setup';
import { lastChange } from '../../documents/changes';
import type { Serve } from '../../http/route';
import * as lists from '@larder/contract/setupLists';
import {
  addTaxRate,
  createDepartment,
  createReason,
  createTax,
  editDepartment,
  editNumber,
  editReason,
  editSite,
  editTax,
  editUnit,
  retireListed,
  setupLists,
} from './lists';
import { createParty, editParty, parties, partiesInAll, partyList, partyOf, retireParty } from './parties';
import * as papersContract from '@larder/contract/papers';
import { keepLogo, keepPapers, logoFile, papers } from './papers';
import { bins, reference } from './queries';
import { createBins, createCategory, createSite, createUnit, editBins, editCompany, editCategory, retireSite } from './service';

export function setupRoutes(serve: Serve): void {
  serve(contract.reference, (act) => reference(act));
  serve(contract.lastChange, async (act, { query }) => ({ last: await lastChange(act, query.kind, query.id) }));
  serve(contract.listBins, async (act, { query }) => ({ rows: await bins(act, query) }));
  serve(papersContract.getPapers, (act) => papers(act));
  serve(papersContract.keepPapers, (act, { body }) => keepPapers(act, body));
  serve(papersContract.keepLogo, (act, { body }) => keepLogo(act, body.base64));
  serve(papersContract.logoFile, (act) => logoFile(act));
  serve(contract.editCompany, (act, { body }) => editCompany(act, body));
  serve(contract.createSite, (act, { body }) => createSite(act, body));
  serve(contract.createBins, (act, { body }) => createBins(act, body));
  serve(contract.editBins, (act, { body }) => editBins(act, body));
  serve(contract.retireSite, (act, { params, body }) => retireSite(act, params.id, body.retired));
  serve(contract.createCategory, (act, { body }) => createCategory(act, body));
  serve(contract.editCategory, (act, { params, body }) => editCategory(act, params.id, body));
  serve(contract.createUnit, (act, { body }) => createUnit(act, body));
  serve(lists.setupLists, (act) => setupLists(act));
  serve(lists.editSite, (act, { params, body }) => editSite(act, params.id, body));
  serve(lists.retireListed, (act, { params, body }) => retireListed(act, params, body.retired));
  serve(lists.editUnit, (act, { params, body }) => editUnit(act, params.id, body));
  serve(lists.createReason, (act, { body }) => createReason(act, body));
  serve(lists.editReason, (act, { params, body }) => editReason(act, params.id, body));
  serve(lists.createDepartment, (act, { body }) => createDepartment(act, body));
  serve(lists.editDepartment, (act, { params, body }) => editDepartment(act, params.id, body));
  serve(lists.createTax, (act, { body }) => createTax(act, body));
  serve(lists.editTax, (act, { params, body }) => editTax(act, params.id, body));
  serve(lists.addTaxRate, (act, { params, body }) => addTaxRate(act, params.id, body));
  serve(lists.editNumber, (act, { params, body }) => editNumber(act, params.kind, body));
  serve(contract.listParties, async (act, { query }) => ({ rows: await parties(act, query) }));
  serve(contract.getParty, (act, { params }) => partyOf(act, params.id));
  serve(contract.partyList, (act, { query }) => partyList(act, query));
  serve(contract.partiesInAll, (act, { query }) => partiesInAll(act, query));
  serve(contract.retireParty, (act, { params, body }) => retireParty(act, params.id, body.retired));
  serve(contract.createParty, (act, { body }) => createParty(act, body));
  serve(contract.editParty, (act, { params, body }) => editParty(act, params.id, body));
}
