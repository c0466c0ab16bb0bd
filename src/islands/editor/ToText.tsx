/** The first text one can write in; where none is theirs the first field that is. Nothing while a text still loads. */
const findText = () =>
  document.querySelector<HTMLElement>('main [contenteditable="true"][role="textbox"]') ??
  (document.querySelector('[data-writing-comes]')
    ? null
    : document.querySelector<HTMLElement>(
        'main [data-field] :is(input, textarea, select):not(:disabled, [readonly], [type="hidden"])',
      ));

/** A way past everything else to where one writes, for those who come by keyboard; waits for it where it still loads. */
export function ToText() {
  const go = () => {
    const text = findText();
    if (text) return text.focus();
    const from = document.activeElement;
    const observer = new MutationObserver(() => {
      const come = findText();
      // Who has gone on elsewhere stays there.
      if (document.activeElement !== from) observer.disconnect();
      else if (come) {
        observer.disconnect();
        come.focus();
      }
    });
    observer.observe(document.body, { childList: true, subtree: true, attributeFilter: ['contenteditable'] });
  };
  return (
    <button type="button" className="skip-link" onClick={go}>
      Go to the text
    </button>
  );
}
