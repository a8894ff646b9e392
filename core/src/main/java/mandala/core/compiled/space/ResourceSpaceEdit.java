package mandala.core.compiled.space;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import mandala.core.compiled.directory.Directory;
import mandala.core.compiled.rights.Rights;
import mandala.core.compiled.rights.WordCounts;
import mandala.core.model.Resource;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.table.IntList;
import mandala.core.table.Numbers;
import org.jspecify.annotations.Nullable;

/**
 * Makes the next places of a change. 1. {@link #leave} takes what goes or moves out of its
 * positions, which become a gap. 2. {@link #settle} puts what comes or moves, parents first, into
 * gaps of its parent. 3. {@link #reread} reads the facts of every position touched, with all below.
 * 4. {@link #redraw} mends what is drawn from positions: kinds above, lists by type, owner and
 * unit.
 *
 * <p>Where a gap is too small, {@link #run} says so and all is laid out anew. Cost: copies of the
 * arrays by position, and the subtrees touched.
 */
public final class ResourceSpaceEdit {

  private final ResourceSpace before;
  private final ResourceSpace after;
  private final Directory directory;
  private final Rights rights;

  /** Positions that are others now than before, old and new. */
  private final BitSet changed = new BitSet();

  private final List<Node> moving = new ArrayList<>();
  private boolean onlySeals;

  /** Something to be placed: what it is, and under what. */
  private record Node(int code, ResourceKey parent) {}

  public ResourceSpaceEdit(
      ResourceSpace before, ResourceSpace after, Directory directory, Rights rights) {
    this.before = before;
    this.after = after;
    this.directory = directory;
    this.rights = rights;
  }

  /** {@return the positions touched}, null where there is no room */
  public @Nullable BitSet run(Set<ResourceKey> resources, Set<GroupKey> groups) {
    after.node = after.node.clone();
    after.end = after.end.clone();
    after.parent = after.parent.clone();
    after.kinds = after.kinds.clone();
    BitSet subtrees = new BitSet();
    Set<Integer> leaving = new TreeSet<>();
    for (ResourceKey key : resources) {
      Resource now = after.catalogue.resources().get(key);
      int at = before.find(key);
      if (at >= 0) {
        subtrees.set(at);
      }
      boolean stays = at >= 0 && now != null && parentOf(now).equals(before.key(before.parent[at]));
      if (at >= 0 && !stays) {
        leaving.add(at);
      }
      if (now != null && !stays) {
        moving.add(new Node(after.catalogue.resources().require(key), parentOf(now)));
      }
    }
    for (GroupKey key : groups) {
      int at = before.find(ResourceKey.of(key));
      boolean stays = after.catalogue.groups().containsKey(key);
      if (at >= 0 && !stays) {
        leaving.add(at);
      } else if (at < 0 && stays) {
        AccountKey account =
            after.catalogue.groups().the(after.catalogue.groups().require(key)).account();
        moving.add(
            new Node(
                after.catalogue.groups().require(key) | ResourceSpace.GROUP,
                ResourceKey.of(account)));
      }
    }
    if (moving.isEmpty() && leaving.isEmpty() && subtrees.isEmpty()) {
      return changed;
    }
    if (!leave(leaving) || !settle()) {
      return null;
    }
    after.moved |= !moving.isEmpty();
    for (int at = subtrees.nextSetBit(0); at >= 0; at = subtrees.nextSetBit(at + 1)) {
      changed.set(at, before.end[at]);
    }
    reread();
    onlySeals = changed.stream().allMatch(at -> before.isSameButForSeal(after, at));
    if (!onlySeals) {
      redraw();
    }
    return changed;
  }

  /** {@return whether seals are all that changed}: then nothing but they must be minded */
  public boolean onlySeals() {
    return onlySeals;
  }

  private static ResourceKey parentOf(Resource resource) {
    return resource.parent() == null ? ResourceKey.of(resource.account()) : resource.parent();
  }

  /**
   * Empties the subtrees of what leaves. What stood below it moves along, unless it was told to go
   * or move itself.
   */
  private boolean leave(Set<Integer> leaving) {
    for (int top : leaving) {
      for (int at = top; at < before.end[top]; at++) {
        changed.set(at);
        if (before.isThere(at) && at != top && !leaving.contains(at)) {
          ResourceKey key = before.key(at);
          if (before.kind(at) != ResourceSpace.RESOURCE
              || !after.catalogue.resources().containsKey(key)) {
            return false;
          }
          Resource now = after.catalogue.resources().the(before.number(at));
          moving.add(new Node(before.node[at], parentOf(now)));
        }
        if (before.isThere(at)) {
          forget(at);
        }
      }
      int up = nearestThere(before.parent[top], leaving);
      for (int at = top; at < before.end[top]; at++) {
        after.node[at] = -1;
        after.end[at] = at + 1;
        after.parent[at] = up;
        Arrays.fill(after.kinds, at, at + 1, null);
      }
    }
    return true;
  }

  /** The nearest place above that does not leave itself: its gap the emptied positions become. */
  private int nearestThere(int from, Set<Integer> leaving) {
    int up = from;
    while (up >= 0 && isLeaving(up, leaving)) {
      up = before.parent[up];
    }
    return up;
  }

  private boolean isLeaving(int at, Set<Integer> leaving) {
    for (int up = at; up >= 0; up = before.parent[up]) {
      if (leaving.contains(up)) {
        return true;
      }
    }
    return false;
  }

  private void forget(int at) {
    int number = before.number(at);
    switch (before.kind(at)) {
      case ResourceSpace.RESOURCE -> after.resourceAt = after.resourceAt.with(number, Numbers.NONE);
      case ResourceSpace.GROUP -> after.groupAt = after.groupAt.with(number, Numbers.NONE);
      default -> throw new IllegalStateException("Impossible state: an account or unit moves");
    }
  }

  private boolean settle() {
    Map<Integer, Integer> size = new HashMap<>();
    Map<ResourceKey, List<Node>> children = new HashMap<>();
    for (Node node : moving) {
      children.computeIfAbsent(node.parent(), _ -> new ArrayList<>()).add(node);
    }
    List<Node> tops = moving.stream().filter(node -> after.find(node.parent()) >= 0).toList();
    int settled = 0;
    for (Node top : tops) {
      int many = size(top, children, size);
      int up = after.find(top.parent());
      int from = room(up, many);
      if (from < 0) {
        return false;
      }
      place(top, from, up, children, size);
      settled += many;
    }
    return settled == moving.size();
  }

  private ResourceKey keyOf(Node node) {
    return (node.code() & ResourceSpace.ACCOUNT) == ResourceSpace.GROUP
        ? ResourceKey.of(after.catalogue.groups().the(node.code() & ~ResourceSpace.ACCOUNT).key())
        : after.catalogue.resources().the(node.code()).key();
  }

  private int size(Node node, Map<ResourceKey, List<Node>> children, Map<Integer, Integer> size) {
    int sum = 1;
    for (Node child : children.getOrDefault(keyOf(node), List.of())) {
      sum += size(child, children, size);
    }
    size.put(node.code(), sum);
    return sum;
  }

  /** The first of so many positions side by side in the gaps of a place, or -1. */
  private int room(int up, int many) {
    int limit = after.isAccount(up) ? after.ownEnd[before.number(up)] : after.end[up];
    int free = 0;
    for (int at = up + 1; at < limit; ) {
      if (after.node[at] < 0 && after.parent[at] == up) {
        free++;
        at++;
        if (free == many) {
          return at - many;
        }
      } else {
        free = 0;
        at = after.end[at];
      }
    }
    return -1;
  }

  private int place(
      Node node,
      int at,
      int up,
      Map<ResourceKey, List<Node>> children,
      Map<Integer, Integer> size) {
    changed.set(at);
    after.node[at] = node.code();
    after.parent[at] = up;
    int number = node.code() & ~ResourceSpace.ACCOUNT;
    if ((node.code() & ResourceSpace.ACCOUNT) == ResourceSpace.GROUP) {
      after.groupAt = after.groupAt.with(number, at);
    } else {
      after.resourceAt = after.resourceAt.with(number, at);
    }
    int next = at + 1;
    for (Node child : children.getOrDefault(keyOf(node), List.of())) {
      next = place(child, next, at, children, size);
    }
    after.end[at] = next;
    return next;
  }

  private void reread() {
    after.type = after.type.clone();
    after.account = after.account.clone();
    after.seal = after.seal.clone();
    after.unit = after.unit.clone();
    after.owner = after.owner.clone();
    after.labels = after.labels.clone();
    after.labelSets = new ArrayList<>(after.labelSets);
    Map<Map<String, String>, Integer> labelIds = new HashMap<>();
    for (int i = 0; i < after.labelSets.size(); i++) {
      labelIds.put(after.labelSets.get(i), i);
    }
    ResourceFacts facts = new ResourceFacts(after, directory, rights);
    for (int at = changed.nextSetBit(0); at >= 0; at = changed.nextSetBit(at + 1)) {
      facts.read(at, labelIds);
    }
    after.nextSeal = ResourceSpace.nextSeals(after.seal);
  }

  private void redraw() {
    redrawKinds();
    BitSet types = new BitSet();
    Set<Integer> owners = new TreeSet<>();
    Set<Integer> units = new TreeSet<>();
    int[] parents = ResourceSpaceBuild.unitParents(directory);
    for (int at = changed.nextSetBit(0); at >= 0; at = changed.nextSetBit(at + 1)) {
      for (ResourceSpace places : List.of(before, after)) {
        if (places.isThere(at)) {
          types.set(places.type[at]);
        }
        if (places.owner[at] >= 0) {
          owners.add(places.owner[at]);
        }
        for (int u = places.unit[at]; u >= 0; u = parents[u]) {
          units.add(u);
        }
      }
    }
    after.ofType = after.ofType.clone();
    types.stream()
        .forEach(t -> after.ofType[t] = redrawn(before.ofType[t], at -> after.type[at] == t));
    for (int owner : owners) {
      int[] list =
          redrawn(before.owned.getOr(owner, Directory.NONE), at -> after.owner[at] == owner);
      after.owned = after.owned.with(owner, list.length == 0 ? null : list);
    }
    for (int unit : units) {
      int[] list =
          redrawn(
              positions(before.inUnit.getOr(unit, Spans.EMPTY)),
              at -> after.unit[at] >= 0 && directory.unitIsAtOrBelow(after.unit[at], unit));
      after.inUnit =
          after.inUnit.with(
              unit, ResourceSpace.points(list, at -> after.accountAt[after.account[at]]));
    }
  }

  /** A list without the positions that changed, but with those of them that belong there now. */
  private int[] redrawn(int[] list, java.util.function.IntPredicate belongs) {
    IntList now = new IntList();
    for (int at : list) {
      if (!changed.get(at)) {
        now.add(at);
      }
    }
    changed.stream().filter(belongs).forEach(now::add);
    int[] sorted = now.toArray();
    Arrays.sort(sorted);
    return sorted;
  }

  private static int[] positions(Spans spans) {
    IntList positions = new IntList();
    for (int i = 0; i < spans.size(); i++) {
      for (int at = spans.start[i]; at < spans.end[i]; at++) {
        positions.add(at);
      }
    }
    return positions.toArray();
  }

  /** Kinds of every place above something that changed, deepest first, from its children. */
  private void redrawKinds() {
    TreeSet<Integer> above = new TreeSet<>();
    for (int at = changed.nextSetBit(0); at >= 0; at = changed.nextSetBit(at + 1)) {
      for (ResourceSpace places : List.of(before, after)) {
        int up = places.parent[at];
        while (up >= 0 && above.add(up)) {
          up = places.parent[up];
        }
      }
      if (after.isThere(at)) {
        above.add(at);
      }
    }
    for (int at : above.descendingSet()) {
      if (after.isThere(at)) {
        int[] sum = WordCounts.plus(Directory.NONE, rights, after.type[at], 1);
        int limit = after.end[at];
        boolean any = false;
        for (int child = after.skip(at + 1, limit);
            child < limit;
            child = after.skip(after.end[child], limit)) {
          any = true;
          sum =
              after.kinds[child] == null
                  ? WordCounts.plus(sum, rights, after.type[child], 1)
                  : WordCounts.plus(sum, after.kinds[child]);
        }
        if (any) {
          after.kinds[at] = sum;
        } else {
          Arrays.fill(after.kinds, at, at + 1, null);
        }
      }
    }
  }
}
