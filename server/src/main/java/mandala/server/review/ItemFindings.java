package mandala.server.review;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import mandala.core.change.Removal;
import mandala.core.detect.Detection;
import mandala.core.detect.Trouble;
import mandala.core.model.Catalogue;
import mandala.core.model.Group;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PrincipalKey;
import mandala.core.review.ReviewItem;

/** Which findings an item is part of: those about its assignment, or about what somebody kept. */
final class ItemFindings {

  private final Map<Key, List<Detection>> byAbout = new HashMap<>();
  private final Map<PrincipalKey, List<Detection>> byPerson = new HashMap<>();

  private ItemFindings() {}

  static ItemFindings of(Collection<Detection> found, Catalogue catalogue) {
    ItemFindings all = new ItemFindings();
    for (Detection it : found) {
      all.byAbout.computeIfAbsent(it.trouble().about(), _ -> new ArrayList<>(1)).add(it);
      if (it.trouble() instanceof Trouble.LeftOver left
          && catalogue.principals().containsKey(left.principal())) {
        all.byPerson.computeIfAbsent(left.principal(), _ -> new ArrayList<>(1)).add(it);
      }
    }
    return all;
  }

  boolean isIn(ReviewItem item) {
    return !of(item).isEmpty();
  }

  /** {@return the findings that an item is part of} */
  List<Detection> of(ReviewItem item) {
    List<Detection> found = new ArrayList<>();
    Key kept =
        switch (item.removal()) {
          case Removal.Unassign(AssignmentKey key) -> key;
          case Removal.Leave(GroupKey group, var _) -> group;
          case Removal.LoseAttribute(GroupKey group, var _) -> group;
          case Removal.EndGuest(var _, AccountKey account) -> account;
          case Removal.DropRule(GroupKey group) -> group;
          default -> null;
        };
    if (kept instanceof AssignmentKey) {
      found.addAll(byAbout.getOrDefault(kept, List.of()));
    }
    item.whose()
        .ifPresent(who -> {
          for (Detection it : byPerson.getOrDefault(who, List.of())) {
            if (it.trouble() instanceof Trouble.LeftOver left
                && left.kept().equals(kept)
                && !found.contains(it)) {
              found.add(it);
            }
          }
          for (Detection it : byAbout.getOrDefault(who, List.of())) {
            if (kept instanceof AccountKey account && isOfGuest(it.trouble(), account)) {
              found.add(it);
            }
          }
        });
    if (item.removal() instanceof Removal.Leave(GroupKey group, var member)
        && member instanceof Group.Member.OfGroup(GroupKey inner)) {
      for (Detection it : byAbout.getOrDefault(group, List.of())) {
        if (it.trouble() instanceof Trouble.FewBecomeMany many && many.member().equals(inner)) {
          found.add(it);
        }
      }
    }
    return found;
  }

  private static boolean isOfGuest(Trouble trouble, AccountKey account) {
    return switch (trouble) {
      case Trouble.GuestPastPurpose(var _, AccountKey in, var _) -> in.equals(account);
      case Trouble.GuestWithoutEnd(var _, AccountKey in) -> in.equals(account);
      default -> false;
    };
  }
}
