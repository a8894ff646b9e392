import { PageTabs } from "@/shared/ui/PageTabs";

/** The pages about oneself. */
export function YouTabs({ active }: { active: string }) {
  return (
    <PageTabs
      label="You"
      active={active}
      tabs={[
        { to: "/you", label: "Access" },
        { to: "/you/reviews", label: "Reviews" },
        { to: "/you/notices", label: "Notices" },
        { to: "/you/work", label: "Long work" },
      ]}
    />
  );
}
