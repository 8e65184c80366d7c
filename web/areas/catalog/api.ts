import * as contract from '@larder/contract/catalog';
import * as families from '@larder/contract/families';
import { api, foresee, read, write } from '../../shared/api';

const catalog = api.injectEndpoints({
  endpoints: (build) => ({
    createItem: write(build, contract.createItem),
    editItem: write(build, contract.editItem),
    deleteItem: write(build, contract.deleteItem),
    editItems: write(build, contract.editItems),
    giveBarcode: write(build, contract.giveBarcode),
    addPicture: write(build, contract.addPicture),
    families: read(build, families.listFamilies),
    family: read(build, families.getFamily),
    foreseeFamily: foresee(build, families.createFamily),
    createFamily: write(build, families.createFamily),
    editFamily: write(build, families.editFamily),
    addMembers: write(build, families.addMembers),
    joinFamily: write(build, families.joinFamily),
    leaveFamily: write(build, families.leaveFamily),
  }),
});
export const {
  useCreateItemMutation,
  useEditItemMutation,
  useDeleteItemMutation,
  useEditItemsMutation,
  useGiveBarcodeMutation,
  useAddPictureMutation,
  useFamiliesQuery,
  useFamilyQuery,
  useForeseeFamilyQuery,
  useCreateFamilyMutation,
  useEditFamilyMutation,
  useAddMembersMutation,
  useJoinFamilyMutation,
  useLeaveFamilyMutation,
} = catalog;
