package mandala.core.detect;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Consumer;
import mandala.core.model.Gives;
import mandala.core.model.Role;
import mandala.core.model.Supplied;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.RoleKey;
import mandala.core.question.RoleHolder;
import mandala.core.shrink.Contents;

/** Roles that give the same, or that nobody holds but together. */
final class AlikeRoles {

  /** Roles that fewer people hold are not compared by who holds them. */
  private static final int FEWEST_HOLDERS = 2;

  private final Basis basis;
  private final Consumer<Detection> found;
  private final Map<RoleKey, Contents.Content> given = new HashMap<>();
  private final Map<RoleKey, Set<PrincipalKey>> holders = new HashMap<>();

  private AlikeRoles(Basis basis, Consumer<Detection> found) {
    this.basis = basis;
    this.found = found;
  }

  static void search(Basis basis, Consumer<Detection> found) {
    new AlikeRoles(basis, found).search();
  }

  private void search() {
    for (Role it : basis.catalogue.roles().values()) {
      Contents.Content content = basis.contents.of(new Gives.OfRole(it.key()), false);
      boolean gives = content.size() + content.deny().size() > 0;
      if (!it.retired() && gives && !it.key().value().startsWith(Supplied.PREFIX)) {
        given.put(it.key(), content);
        Set<PrincipalKey> who = new HashSet<>();
        for (RoleHolder holder : basis.engine.roleHolders(it.key(), basis.at)) {
          who.add(holder.principal());
        }
        holders.put(it.key(), who);
      }
    }
    equal();
    held();
  }

  private void equal() {
    Map<Contents.Content, List<RoleKey>> alike = new HashMap<>();
    inOrder().forEach(it -> alike.computeIfAbsent(content(it), _ -> new ArrayList<>()).add(it));
    for (List<RoleKey> some : alike.values()) {
      for (int i = 1; i < some.size(); i++) {
        tell(some.getFirst(), some.get(i), Trouble.Likeness.EQUAL);
      }
    }
  }

  /** Those whose holders are the same, and those all of whose holders hold more anyway. */
  private void held() {
    Map<PrincipalKey, List<RoleKey>> of = new HashMap<>();
    inOrder()
        .forEach(it ->
            holders(it).forEach(who -> of.computeIfAbsent(who, _ -> new ArrayList<>()).add(it)));
    for (RoleKey one : inOrder()) {
      Set<PrincipalKey> who = holders(one);
      if (who.size() >= FEWEST_HOLDERS) {
        for (RoleKey two : of.getOrDefault(who.iterator().next(), List.of())) {
          if (!one.equals(two) && holders(two).containsAll(who)) {
            held(one, two);
          }
        }
      }
    }
  }

  private void held(RoleKey one, RoleKey two) {
    Contents.Content less = content(one);
    Contents.Content more = content(two);
    if (less.equals(more)) {
      return; // told already
    }
    if (isWithin(less, more)) {
      tell(one, two, Trouble.Likeness.CONTAINED);
    } else if (!isWithin(more, less)
        && holders(two).size() == holders(one).size()
        && one.value().compareTo(two.value()) < 0) {
      tell(one, two, Trouble.Likeness.TOGETHER);
    }
  }

  private static boolean isWithin(Contents.Content less, Contents.Content more) {
    return less.deny().equals(more.deny())
        && more.free().containsAll(less.free())
        && less.factor().stream().allMatch(more::allows);
  }

  private void tell(RoleKey one, RoleKey two, Trouble.Likeness likeness) {
    Trouble trouble = new Trouble.AlikeRoles(one, two, likeness);
    var risk = basis.risk(basis.allowed(new Gives.OfRole(one)));
    if (likeness == Trouble.Likeness.EQUAL) {
      found.accept(Detection.ofModel(trouble, risk, 1));
    } else {
      Set<PrincipalKey> who = holders(one);
      found.accept(
          Detection.ofHomes(
              Basis.homes(
                  who.stream()
                      .map(basis.catalogue.principals()::get)
                      .filter(Objects::nonNull)
                      .toList()),
              trouble,
              risk,
              who.size()));
    }
  }

  private List<RoleKey> inOrder() {
    return basis.catalogue.roles().keySet().stream().filter(given::containsKey).toList();
  }

  private Contents.Content content(RoleKey key) {
    return Objects.requireNonNull(given.get(key));
  }

  private Set<PrincipalKey> holders(RoleKey key) {
    return holders.getOrDefault(key, Set.of());
  }
}
