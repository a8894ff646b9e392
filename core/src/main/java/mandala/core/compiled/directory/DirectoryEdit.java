package mandala.core.compiled.directory;

import java.util.Arrays;
import java.util.BitSet;
import java.util.Set;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Principal;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.table.IntList;
import mandala.core.table.Table;

/**
 * Makes the next directory of a change. 1. {@link #principal} puts each touched principal where it
 * is now. 2. {@link #group} does so for the members of each touched group, and marks whose groups
 * may be others. 3. {@link #rejoin} finds the groups of these anew. Cost: what is touched and the
 * members of touched groups.
 */
public final class DirectoryEdit {

  private final Directory before;
  private final Directory after;
  private final Catalogue catalogue;
  private final BitSet affected = new BitSet();

  public DirectoryEdit(Directory before, Directory after) {
    this.before = before;
    this.after = after;
    this.catalogue = after.catalogue;
  }

  /** {@return the principals that are others now, or in other groups} */
  public BitSet run(Set<PrincipalKey> principals, Set<GroupKey> groups) {
    principals.forEach(this::principal);
    groups.forEach(this::group);
    rejoin();
    return affected;
  }

  private void principal(PrincipalKey key) {
    int was = before.catalogue.principals().number(key);
    Principal now = catalogue.principals().get(key);
    int p = was >= 0 ? was : catalogue.principals().require(key);
    Profile old = was < 0 ? null : before.profiles.get(was);
    Profile fresh = now == null ? null : after.profile(now);
    affected.set(p);
    after.profiles = after.profiles.with(p, fresh);
    after.staff = moved(after.staff, p, old == null ? -1 : old.home, home(fresh));
    after.reports =
        moved(after.reports, p, old == null ? -1 : old.manager, fresh == null ? -1 : fresh.manager);
    after.patternPeople =
        moved(
            after.patternPeople,
            p,
            old == null ? -1 : old.pattern,
            fresh == null ? -1 : fresh.pattern);
    if (old != null) {
      byRule(old.home, p, fresh);
    }
    if (fresh != null && (old == null || old.home != fresh.home)) {
      byRule(fresh.home, p, fresh);
    }
  }

  private static int home(@org.jspecify.annotations.Nullable Profile profile) {
    return profile == null ? -1 : profile.home;
  }

  /** Rule groups of an account take a principal in or let it go. */
  private void byRule(int account, int p, @org.jspecify.annotations.Nullable Profile now) {
    for (int g : catalogue.links().ruled(account)) {
      boolean in =
          now != null && ((now.home == account && after.passes(g, now.principal)) || lists(g, now));
      after.members = in ? plus(after.members, g, p) : minus(after.members, g, p);
    }
  }

  private boolean lists(int group, Profile profile) {
    return catalogue.groups().the(group).members().stream()
        .anyMatch(member ->
            member instanceof Group.Member.OfPrincipal(var _, PrincipalKey key)
                && key.equals(profile.principal.key()));
  }

  private static Table<int[]> moved(Table<int[]> lists, int p, int from, int to) {
    Table<int[]> moved = lists;
    if (from != to) {
      moved = from < 0 ? moved : minus(moved, from, p);
      moved = to < 0 ? moved : plus(moved, to, p);
    }
    return moved;
  }

  private static Table<int[]> plus(Table<int[]> lists, int at, int value) {
    int[] list = lists.getOr(at, Directory.NONE);
    int i = IntList.lowerBound(list, value);
    if (i < list.length && list[i] == value) {
      return lists;
    }
    int[] longer = new int[list.length + 1];
    System.arraycopy(list, 0, longer, 0, i);
    longer[i] = value;
    System.arraycopy(list, i, longer, i + 1, list.length - i);
    return lists.with(at, longer);
  }

  private static Table<int[]> minus(Table<int[]> lists, int at, int value) {
    int[] list = lists.getOr(at, Directory.NONE);
    int i = IntList.lowerBound(list, value);
    if (i == list.length || list[i] != value) {
      return lists;
    }
    int[] shorter = new int[list.length - 1];
    System.arraycopy(list, 0, shorter, 0, i);
    System.arraycopy(list, i + 1, shorter, i, shorter.length - i);
    return lists.with(at, shorter.length == 0 ? null : shorter);
  }

  private void group(GroupKey key) {
    int was = before.catalogue.groups().number(key);
    int g = was >= 0 ? was : catalogue.groups().require(key);
    Group old = before.catalogue.groups().get(key);
    Group now = catalogue.groups().get(key);
    int[] oldMembers = before.members.getOr(g, Directory.NONE);
    int[] members = now == null ? Directory.NONE : DirectoryBuild.membersOf(after, g);
    int[] oldInner = before.inner.getOr(g, Directory.NONE);
    int[] inner = now == null ? Directory.NONE : DirectoryBuild.innerOf(catalogue, g);
    after.members = after.members.with(g, now == null ? null : members);
    after.inner = after.inner.with(g, now == null ? null : inner);
    boolean same =
        old != null
            && now != null
            && old.retired() == now.retired()
            && Arrays.equals(oldInner, inner);
    if (same) {
      differ(oldMembers, members);
      differ(members, oldMembers);
    } else {
      within(before, g, new BitSet());
      within(after, g, new BitSet());
    }
  }

  /** Marks who is in one ascending list and not in another. */
  private void differ(int[] list, int[] other) {
    int j = 0;
    for (int p : list) {
      while (j < other.length && other[j] < p) {
        j++;
      }
      if (j == other.length || other[j] != p) {
        affected.set(p);
      }
    }
  }

  /** Marks whom a group contains, through others too. */
  private void within(Directory directory, int group, BitSet seen) {
    IntList open = new IntList();
    open.add(group);
    seen.set(group);
    for (int i = 0; i < open.size(); i++) {
      for (int p : directory.members.getOr(open.get(i), Directory.NONE)) {
        affected.set(p);
      }
      for (int inner : directory.inner.getOr(open.get(i), Directory.NONE)) {
        if (!seen.get(inner)) {
          seen.set(inner);
          open.add(inner);
        }
      }
    }
  }

  private void rejoin() {
    for (int p = affected.nextSetBit(0); p >= 0; p = affected.nextSetBit(p + 1)) {
      Profile profile = after.profiles.get(p);
      if (profile != null) {
        after.profiles = after.profiles.with(p, profile.in(after.groupsOf(p, profile)));
      }
    }
  }
}
