/** Any number of a few things, each pressed or not; none stands for any of them. */
export function Chips<T extends string | number>({
  label,
  any,
  all,
  nameOf,
  value,
  onChange,
}: {
  label: string;
  any: string;
  all: readonly T[];
  nameOf: (one: T) => string;
  value: readonly T[];
  onChange: (value: T[]) => void;
}) {
  return (
    <fieldset className="flex flex-wrap items-center gap-1.5">
      <legend className="label">{label}</legend>
      <button
        type="button"
        aria-pressed={value.length === 0}
        className={`btn btn-small ${value.length === 0 ? 'border-pine bg-pine-soft' : ''}`}
        onClick={() => onChange([])}
      >
        {any}
      </button>
      {all.map((one) => {
        const on = value.includes(one);
        return (
          <button
            key={one}
            type="button"
            aria-pressed={on}
            className={`btn btn-small ${on ? 'border-pine bg-pine-soft' : ''}`}
            onClick={() =>
              onChange(on ? value.filter((v) => v !== one) : all.filter((v) => v === one || value.includes(v)))
            }
          >
            {nameOf(one)}
          </button>
        );
      })}
    </fieldset>
  );
}
