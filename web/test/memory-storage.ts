/** The storage of a device, in memory; a full one takes nothing more. */
export class MemoryStorage implements Storage {
  private readonly held = new Map<string, string>();
  full = false;
  get length() {
    return this.held.size;
  }
  clear = () => this.held.clear();
  getItem = (key: string) => this.held.get(key) ?? null;
  key = (i: number) => [...this.held.keys()][i] ?? null;
  removeItem = (key: string) => void this.held.delete(key);
  setItem = (key: string, value: string) => {
    if (this.full) throw new DOMException('full', 'QuotaExceededError');
    this.held.set(key, value);
  };
}
