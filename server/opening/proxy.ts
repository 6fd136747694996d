import { isIP } from 'node:net';

/** A proxy that stands before this server and speaks TLS to other devices. */
export interface Proxy {
  /** Addresses, or ranges of them, whose word on who asks is taken. */
  readonly trusted: readonly string[];
  /** What people ask it by. */
  readonly url: URL;
}

const isRange = (text: string): boolean => {
  const [address = '', bits, ...more] = text.split('/');
  const version = isIP(address);
  if (version === 0 || more.length > 0) return false;
  return bits === undefined || (/^\d{1,3}$/.test(bits) && Number(bits) >= 8 && Number(bits) <= (version === 4 ? 32 : 128));
};

/**
 * The proxy as the environment sets it. Nothing is guessed: who is not on the list is believed nothing.
 *
 * @param addresses `VAST_SURGE_PROXY`: addresses or ranges of at least 8 bits, with commas between them
 * @param url `VAST_SURGE_URL`: what people ask it by, over https
 * @throws Error naming the setting that is wrong
 */
export function readProxy(addresses: string, url: string): Proxy | null {
  const trusted = addresses
    .split(',')
    .map((one) => one.trim())
    .filter((one) => one !== '');
  if (trusted.length === 0 && url === '') return null;
  if (trusted.length === 0)
    throw new Error('VAST_SURGE_PROXY must have the address of the proxy that answers at VAST_SURGE_URL, such as 127.0.0.1');
  const wrong = trusted.find((one) => !isRange(one));
  if (wrong !== undefined)
    throw new Error(
      `VAST_SURGE_PROXY has "${wrong}"; it must be an IP address, or a range of at least 8 bits such as 192.168.7.0/24`,
    );
  const read = URL.parse(url);
  if (read?.protocol !== 'https:' || read.pathname !== '/' || read.search !== '' || read.username !== '')
    throw new Error(`VAST_SURGE_URL is "${url}"; it must be what people ask the proxy by, such as https://bench.example`);
  return { trusted, url: read };
}
