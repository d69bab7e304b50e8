import { type KeyboardEvent, type PointerEvent, useEffect, useMemo, useRef } from "react";

const isPress = ({ key }: KeyboardEvent) => key === " " || key === "Enter";

/** A button that is on for as long as it is held, by finger, mouse or key: handlers for it. One that goes from the page while it is held is let go. */
export function useHeldDown<Handle extends Element = HTMLButtonElement>(set: (isOn: boolean) => void) {
  const latest = useRef(set);
  latest.current = set;
  const isOn = useRef(false);
  const { turn, handlers } = useMemo(() => {
    const turn = (isDown: boolean) => {
      if (isOn.current === isDown) return;
      isOn.current = isDown;
      latest.current(isDown);
    };
    const letGo = () => turn(false);
    const handlers = {
      onPointerDown(event: PointerEvent<Handle>) {
        event.currentTarget.setPointerCapture(event.pointerId);
        turn(true);
      },
      onPointerUp: letGo,
      onPointerCancel: letGo,
      onKeyDown: (event: KeyboardEvent<Handle>) => !event.repeat && isPress(event) && turn(true),
      onKeyUp: (event: KeyboardEvent<Handle>) => isPress(event) && turn(false),
      onBlur: letGo,
    };
    return { turn, handlers };
  }, []);
  useEffect(() => () => turn(false), [turn]);
  return handlers;
}
