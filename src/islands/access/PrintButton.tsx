import { Icon } from '../kit/Icon';

/** Opens the browser's print dialog: the screen prints as a sheet. */
export function PrintButton() {
  return (
    <button type="button" className="btn no-print" onClick={() => window.print()}>
      <Icon name="print" size={16} /> Print this sheet
    </button>
  );
}
