import { State } from '../kit/layout';
import { Link } from 'react-router';

/** Shown where there is nothing, and when a page failed. */
export function Lost() {
  return (
    <State>
      There is nothing here, or the page could not be shown. <Link to="/">Back to Today</Link>
    </State>
  );
}
