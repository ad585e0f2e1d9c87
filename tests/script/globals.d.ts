// What pages load beside the scripts, and what their elements have: pages are written so that an element with an id is of the kind that is
// meant, so a script need not say it again.
declare const htmx: any;
declare const Idiomorph: any;
declare const tus: any;
declare function registerProcessor(name: string, processor: any): void;
declare class AudioWorkletProcessor { readonly port: MessagePort; }
declare const sampleRate: number;

interface Window { tus: any; htmx: any; Idiomorph: any; }
interface Event { detail: any; dataTransfer: DataTransfer; key: string; }
interface EventTarget { closest(selector: string): Element; matches(selector: string): boolean; blur(): void; id: string; value: any; checked: boolean; }
interface Element {
  dataset: DOMStringMap;
  value: any;
  files: FileList;
  disabled: boolean;
  hidden: boolean;
  checked: boolean;
  options: HTMLOptionsCollection;
  selectedOptions: HTMLCollectionOf<HTMLOptionElement>;
  form: HTMLFormElement;
  elements: any;
  open: boolean;
  name: string;
  content: any;
  getScreenCTM(): DOMMatrix;
  add(option: any): void;
  click(): void;
  focus(): void;
  showModal(): void;
  requestSubmit(): void;
  submit(): void;
}
