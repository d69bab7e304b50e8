import { useStore } from "zustand";
import { createStore } from "zustand/vanilla";
import { command } from "./live";

/** What this station looks at and listens to; none of it belongs to the project. */
interface InputsView {
  readonly leadId: string | null;
  readonly soloLeadId: string | null;
  readonly soloSourceId: string | null;
  readonly isTesting: boolean;
}

const inputsStore = createStore<InputsView>()(() => ({
  leadId: null,
  soloLeadId: null,
  soloSourceId: null,
  isTesting: false,
}));

export const useInputs = <Part>(select: (view: InputsView) => Part): Part => useStore(inputsStore, select);

export const openLead = (leadId: string): void => inputsStore.setState({ leadId });

/** Solo of the one or the other; asked for again, it ends. */
export function solo(what: "lead" | "source", id: string): void {
  const { soloLeadId, soloSourceId } = inputsStore.getState();
  const isOn = (what === "lead" ? soloLeadId : soloSourceId) !== id;
  const next = {
    soloLeadId: what === "lead" && isOn ? id : null,
    soloSourceId: what === "source" && isOn ? id : null,
  };
  inputsStore.setState(next);
  command({ kind: "solo", leadId: next.soloLeadId, sourceId: next.soloSourceId });
}

/** A test works everything out and moves nothing. */
export function setTesting(isTesting: boolean): void {
  inputsStore.setState({ isTesting });
  command({ kind: "testInputs", isOn: isTesting });
}
