import { pairPad } from "@stores/padLine";
import { type FormEvent, useState } from "react";

/** What the square code on the bench leads to has the code behind the “#”. */
const codeInAddress = () => /^#(\d{6})$/.exec(location.hash)?.[1] ?? "";

/** Asks for the code that the bench shows. */
export function PairForm() {
  const [code, setCode] = useState(codeInAddress);
  const [name, setName] = useState("");
  const [trouble, setTrouble] = useState<string | null>(null);
  const [isAsking, setIsAsking] = useState(false);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (!/^\d{6}$/.test(code)) {
      setTrouble("A code has six digits.");
      return;
    }
    setIsAsking(true);
    const refusal = await pairPad(code, name.trim() || "Phone");
    setIsAsking(false);
    setTrouble(refusal);
    // It has been used, or was wrong: nobody needs it in the address.
    history.replaceState(null, "", location.pathname);
  };
  return (
    <form onSubmit={submit} className="mx-auto flex h-full max-w-sm flex-col justify-center gap-4 p-6" noValidate>
      <h1 className="heading text-2xl">A pad for the bench</h1>
      <p>
        At the bench, open the station <b>Remote</b>, then <b>Devices</b>, and ask for a code.
      </p>
      <label className="block">
        <span className="caption mb-1 block">Code</span>
        <input
          className="input number w-full text-center text-3xl tracking-[0.3em]"
          inputMode="numeric"
          autoComplete="one-time-code"
          maxLength={6}
          value={code}
          onChange={(event) => setCode(event.target.value.replace(/\D/g, ""))}
          aria-invalid={trouble !== null}
          aria-describedby={trouble ? "pair-trouble" : undefined}
        />
      </label>
      <label className="block">
        <span className="caption mb-1 block">Name of this pad</span>
        <input
          className="input w-full"
          placeholder="Phone"
          maxLength={40}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      {trouble && (
        <p id="pair-trouble" role="alert" className="text-error">
          {trouble}
        </p>
      )}
      <button type="submit" className="btn btn-primary btn-lg" disabled={isAsking}>
        {isAsking ? "Asking…" : "Let me in"}
      </button>
    </form>
  );
}
