import { leaveGift, useGift, useGiftInAddress } from "@stores/gifts";
import GiftSheet from "./GiftSheet";

/** What came with the address of the page, as long as nobody has dealt with it. */
export default function Gifts() {
  useGiftInAddress();
  const gift = useGift();
  return gift && <GiftSheet gift={gift} onDone={leaveGift} />;
}
