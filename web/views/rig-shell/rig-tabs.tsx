import { useState } from 'react';
import { ChevronDown } from 'lucide-react';
import { Popover } from 'radix-ui';
import { NavLink } from 'react-router';
import { pageGroups, pagesOf, type Rig, type RigPage } from '@vast-surge/core/rig';

interface GroupProps {
  readonly id: string;
  readonly title: string;
  readonly pages: readonly RigPage[];
}

const address = (id: string, route: string): string => `/rigs/${id}${route && `/${route}`}`;

const groupsOf = (rig: Rig) => {
  const pages = pagesOf(rig);
  return pageGroups.map(({ id, title }) => ({ group: id, title, pages: pages.filter((page) => page.group === id) }));
};

function Group({ id, title, pages }: GroupProps) {
  return (
    <li className="border-rule not-first:border-l not-first:pl-4 pr-4">
      <span className="block text-12 leading-none text-dim">{title}</span>
      <ul className="flex gap-x-4">
        {pages.map(({ route, title: page, about }) => (
          <li key={route}>
            <NavLink
              end={route === ''}
              to={address(id, route)}
              title={about}
              className={({ isActive }) =>
                `block border-b-[3px] pt-0.5 leading-snug whitespace-nowrap ${isActive ? 'border-select font-bold' : 'border-transparent hover:border-rule'}`
              }
            >
              {page}
            </NavLink>
          </li>
        ))}
      </ul>
    </li>
  );
}

/** On a narrow screen one line says where one is, and opens the whole list. */
function NarrowTabs({ id, rig, here }: { id: string; rig: Rig; here: RigPage | null }) {
  const [open, setOpen] = useState(false);
  const groups = groupsOf(rig);
  const group = groups.find((one) => one.group === here?.group);
  return (
    <Popover.Root open={open} onOpenChange={setOpen}>
      <Popover.Trigger className="flex min-h-11 w-full items-center gap-2 text-left lg:hidden">
        <span className="text-dim">{group?.title ?? 'Pages'}:</span> <b>{here?.title ?? 'choose one'}</b>
        <ChevronDown size={17} aria-hidden className="ml-auto" />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          className="z-50 max-h-[75vh] w-[min(24rem,96vw)] overflow-y-auto border border-ink bg-plate px-3 pb-2"
        >
          <nav aria-label="Pages of the rig">
            {groups.map(({ group: one, title, pages }) => (
              <section key={one} aria-label={title}>
                <p className="pt-2 text-13 text-dim">{title}</p>
                <ul>
                  {pages.map(({ route, title: page }) => (
                    <li key={route}>
                      <NavLink
                        end={route === ''}
                        to={address(id, route)}
                        onClick={() => setOpen(false)}
                        className={({ isActive }) =>
                          `flex min-h-11 items-center border-l-4 pl-3 ${isActive ? 'border-select font-bold' : 'border-transparent'}`
                        }
                      >
                        {page}
                      </NavLink>
                    </li>
                  ))}
                </ul>
              </section>
            ))}
          </nav>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** The pages that this rig has, in the order of the work: the same on every one of them. */
export function RigTabs({ id, rig, here }: { id: string; rig: Rig; here: RigPage | null }) {
  return (
    <div className="no-print border-b border-rule bg-plate px-3 sm:px-5">
      <nav aria-label="Pages of the rig" className="hidden pt-1.5 lg:block">
        <ul className="flex flex-wrap gap-y-1">
          {groupsOf(rig).map(({ group, title, pages }) => (
            <Group key={group} id={id} title={title} pages={pages} />
          ))}
        </ul>
      </nav>
      <NarrowTabs id={id} rig={rig} here={here} />
    </div>
  );
}
