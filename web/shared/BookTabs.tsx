import { NavLink } from 'react-router';

/** The ways into the books. */
export function BookTabs() {
  return (
    <nav className="tabs" aria-label="Books">
      <NavLink to="/books" end>
        Bills
      </NavLink>
      <NavLink to="/books/landed">Landed cost</NavLink>
      <NavLink to="/books/clearing">Clearing</NavLink>
      <NavLink to="/books/accounts">Accounts</NavLink>
      <NavLink to="/books/journal">Journal</NavLink>
      <NavLink to="/books/handover">Hand-over</NavLink>
    </nav>
  );
}
