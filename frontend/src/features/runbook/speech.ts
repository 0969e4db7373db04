/** The browser's own voice, where it has one. */
export const canSpeak = () => "speechSynthesis" in window;

export function say(words: string) {
  window.speechSynthesis.cancel();
  window.speechSynthesis.speak(new SpeechSynthesisUtterance(words));
}
