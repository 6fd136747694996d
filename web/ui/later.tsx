import { lazy, Suspense, type ComponentType, type ReactNode } from 'react';

/**
 * A part of a page whose script comes once the page is drawn, so that what is read first does not wait for it.
 *
 * @param meanwhile what stands in its place until then, and where it cannot be fetched
 */
export function later<P extends object>(load: () => Promise<ComponentType<P>>, meanwhile: ReactNode = null): ComponentType<P> {
  const Missing: ComponentType<P> = () => meanwhile;
  const Part = lazy(() =>
    load().then(
      (made) => ({ default: made }),
      () => ({ default: Missing }),
    ),
  );
  return function Later(props: P) {
    return (
      <Suspense fallback={meanwhile}>
        <Part {...props} />
      </Suspense>
    );
  };
}
