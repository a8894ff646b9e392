package mandala.core.compiled.directory;

import java.util.Arrays;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.Principal;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.rule.GroupRules;
import mandala.core.table.IntList;
import mandala.core.table.Table;
import org.jspecify.annotations.Nullable;

/**
 * Fills a new directory. 1. {@link #people} reads each principal. 2. {@link #join} finds the groups
 * of each. 3. {@link #memberships} turns what is listed or taken in by rule around. Cost: linear in
 * principals, memberships, and rules times the staff of their account.
 */
public final class DirectoryBuild {

  private final Directory directory;
  private final Catalogue catalogue;

  DirectoryBuild(Directory directory) {
    this.directory = directory;
    this.catalogue = directory.catalogue;
  }

  void run() {
    Profile[] profiles = people();
    join(profiles);
    directory.profiles = Table.of(profiles);
    memberships();
  }

  private Profile[] people() {
    Profile[] profiles = new Profile[catalogue.principals().numbers()];
    IntList[] reports = new IntList[profiles.length];
    IntList[] staff = new IntList[directory.accounts()];
    IntList[] people = new IntList[catalogue.patterns().numbers()];
    for (int p = 0; p < profiles.length; p++) {
      Principal principal = catalogue.principals().at(p);
      if (principal != null) {
        Profile profile = directory.profile(principal);
        profiles[p] = profile;
        add(staff, profile.home, p);
        if (profile.manager >= 0) {
          add(reports, profile.manager, p);
        }
        if (profile.pattern >= 0) {
          add(people, profile.pattern, p);
        }
      }
    }
    directory.reports = closed(reports);
    directory.staff = closed(staff);
    directory.patternPeople = closed(people);
    return profiles;
  }

  private void join(Profile[] profiles) {
    for (int p = 0; p < profiles.length; p++) {
      if (profiles[p] != null) {
        profiles[p] = profiles[p].in(directory.groupsOf(p, profiles[p]));
      }
    }
  }

  private void memberships() {
    int groups = catalogue.groups().numbers();
    int[][] members = new int[groups][];
    int[][] inner = new int[groups][];
    for (int g = 0; g < groups; g++) {
      if (catalogue.groups().at(g) != null) {
        members[g] = membersOf(directory, g);
        inner[g] = innerOf(catalogue, g);
      }
    }
    directory.members = Table.of(members);
    directory.inner = Table.of(inner);
  }

  /** {@return who a group lists or takes in from its own account by its rule, ascending} */
  static int[] membersOf(Directory directory, int group) {
    Catalogue catalogue = directory.catalogue;
    Group it = catalogue.groups().the(group);
    IntList found = new IntList();
    for (Group.Member member : it.members()) {
      if (member instanceof Group.Member.OfPrincipal(var _, PrincipalKey key)) {
        found.add(catalogue.principals().require(key));
      }
    }
    if (it.rule() != null) {
      int account = catalogue.accounts().require(it.account());
      for (int p : directory.staff.getOr(account, Directory.NONE)) {
        if (GroupRules.passes(it.rule(), directory.profiles.require(p).principal, catalogue)) {
          found.add(p);
        }
      }
    }
    int[] all = found.toArray();
    Arrays.sort(all);
    return all.length == 0 ? Directory.NONE : Arrays.stream(all).distinct().toArray();
  }

  /** {@return the groups that a group lists} */
  static int[] innerOf(Catalogue catalogue, int group) {
    IntList found = new IntList();
    for (Group.Member member : catalogue.groups().the(group).members()) {
      if (member instanceof Group.Member.OfGroup(GroupKey key)) {
        found.add(catalogue.groups().require(key));
      }
    }
    return found.size() == 0 ? Directory.NONE : found.toArray();
  }

  private static void add(IntList[] lists, int at, int value) {
    if (lists[at] == null) {
      lists[at] = new IntList();
    }
    lists[at].add(value);
  }

  public static Table<int[]> closed(IntList[] lists) {
    int[] @Nullable [] arrays = new int[lists.length][];
    for (int i = 0; i < lists.length; i++) {
      arrays[i] = lists[i] == null ? null : lists[i].toArray();
    }
    return Table.of(arrays);
  }
}
