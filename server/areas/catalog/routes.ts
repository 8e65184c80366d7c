import * as attributes from '@larder/contract/attributes';
import * as contract from '@larder/contract/catalog';
import * as families from '@larder/contract/families';
import type { Serve } from '../../http/route';
import { attributes as allAttributes, createAttribute, editAttribute } from './attributes';
import { readCode } from './codes';
import { addMembers, createFamily, editFamily, joinFamily, leaveFamily, takenCodes } from './families';
import { families as allFamilies, family } from './familyQueries';
import { addPicture, pictureFile } from './pictures';
import { find } from './find';
import { items } from './itemList';
import { item } from './queries';
import { createItem, deleteItem, editItem, editItems, giveBarcode, teachCode } from './service';

export function catalogRoutes(serve: Serve): void {
  serve(contract.listItems, (act, { query }) => items(act, query));
  serve(contract.getItem, (act, { params }) => item(act, params.id));
  serve(contract.createItem, (act, { body }) => createItem(act, body));
  serve(contract.editItem, (act, { params, body }) => editItem(act, params.id, body));
  serve(contract.editItems, (act, { body }) => editItems(act, body));
  serve(contract.deleteItem, (act, { params, body }) => deleteItem(act, params.id, body.version));
  serve(contract.giveBarcode, (act, { params }) => giveBarcode(act, params.id));
  serve(contract.teachCode, (act, { params, body }) => teachCode(act, params.id, body));
  serve(contract.addPicture, (act, { body }) => addPicture(act, body.base64));
  serve(contract.getPicture, (act, { params }) => pictureFile(act, params));
  serve(contract.find, async (act, { query }) => ({ rows: await find(act, query.q) }));
  serve(contract.readCode, (act, { query }) => readCode(act, query.code));
  serve(families.listFamilies, async (act, { query }) => ({ rows: await allFamilies(act, query) }));
  serve(families.getFamily, (act, { params }) => family(act, params.id));
  serve(families.createFamily, (act, { body }) => createFamily(act, body));
  serve(families.editFamily, (act, { params, body }) => editFamily(act, params.id, body));
  serve(families.addMembers, (act, { params, body }) => addMembers(act, params.id, body));
  serve(families.joinFamily, (act, { params, body }) => joinFamily(act, params.id, body));
  serve(families.leaveFamily, (act, { params, body }) => leaveFamily(act, params.id, body.itemIds));
  serve(families.takenCodes, (act, { body }) => takenCodes(act, body));
  serve(attributes.listAttributes, (act) => allAttributes(act));
  serve(attributes.createAttribute, (act, { body }) => createAttribute(act, body));
  serve(attributes.editAttribute, (act, { params, body }) => editAttribute(act, params.id, body));
}
