interface FactProps {
  readonly name: string;
  readonly value: string;
}

/** A number under its name, inside a list of such. */
export function Fact({ name, value }: FactProps) {
  return (
    <div>
      <dt className="caption">{name}</dt>
      <dd className="number text-lg">{value}</dd>
    </div>
  );
}
