/** The whole answer as a file. */
export function Exports({ address }: { address: string }) {
  const file = address.replace("?", "/export?");
  return (
    <p className="acts exports">
      <span className="note">the whole answer as</span>
      <a href={`${file}&format=csv`} download>
        CSV
      </a>
      <a href={`${file}&format=xlsx`} download>
        XLSX
      </a>
      <a href={address} download="answer.json">
        JSON
      </a>
    </p>
  );
}
