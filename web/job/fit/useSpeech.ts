import { useEffect, useState } from 'react';

/** Reads a text aloud where the browser can, and every new one while it is on. */
export function useSpeech(text: string | undefined) {
  const isAble = 'speechSynthesis' in window;
  const [isOn, setOn] = useState(false);
  useEffect(() => {
    if (!isAble || !isOn || text === undefined) return;
    speechSynthesis.cancel();
    speechSynthesis.speak(new SpeechSynthesisUtterance(text));
    return () => speechSynthesis.cancel();
  }, [isAble, isOn, text]);
  return { isAble, isOn, toggle: () => setOn((on) => isAble && !on) };
}
