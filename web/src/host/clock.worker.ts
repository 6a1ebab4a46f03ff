// A timer that browsers do not slow down when the page is hidden: answers each asked delay once, by its number.
const post = self.postMessage.bind(self) as (message: number) => void;

self.onmessage = ({ data }: MessageEvent<{ number: number; delayMs: number }>) => {
  setTimeout(() => post(data.number), Math.max(0, data.delayMs));
};
