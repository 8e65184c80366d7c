import type { Address } from './address';
import { Tabs } from './Tabs';

interface AddressTabsProps<K extends string> {
  label: string;
  address: Address;
  /** Under which name the address has it; the first option is what nothing in it means. */
  name: string;
  options: readonly (readonly [K, string])[];
}

/** A choice of a few that a list is held to, kept in its address. */
export const AddressTabs = <K extends string>({ label, address, name, options }: AddressTabsProps<K>) => (
  <Tabs label={label} options={options} value={address.choice(name, options)} onChange={(key) => address.put(name, key === options[0]?.[0] ? '' : key)} />
);
