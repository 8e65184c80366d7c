import { NavLink } from 'react-router';

/** The ways into the catalog. */
export function ItemTabs() {
  return (
    <nav className="tabs" aria-label="Catalog">
      <NavLink to="/items" end>
        Items
      </NavLink>
      <NavLink to="/items/families">Families</NavLink>
      <NavLink to="/items/units">Lots and units</NavLink>
    </nav>
  );
}
