import { Heard } from "./Heard";
import { MqttSheet } from "./MqttSheet";
import { OutsideSheet } from "./OutsideSheet";
import { OscSheet, SacnSheet } from "./UdpSheets";

/** Messages of other machines: by which doors they come, what they may ask for, and what was heard last. */
export function MessagesPanel() {
  return (
    <div className="grid h-full min-h-0 grid-cols-[22rem_minmax(0,1fr)_minmax(0,1.1fr)] gap-4">
      <div className="flex min-h-0 flex-col gap-3 overflow-y-auto shows-more pr-1">
        <MqttSheet />
        <OscSheet />
        <SacnSheet />
      </div>
      <OutsideSheet />
      <Heard />
    </div>
  );
}
