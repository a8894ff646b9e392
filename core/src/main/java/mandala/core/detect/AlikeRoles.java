package mandala.core.detect;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Consumer;
import mandala.core.model.Gives;
import mandala.core.model.Role;
import mandala.core.model.Supplied;
import mandala.core.model.key.RoleKey;
import mandala.core.shrink.Contents;

/** Roles that give the same, or that nobody holds but together. */
final class AlikeRoles {

  /** Roles that fewer people hold are not compared by who holds them. */
  private static final int FEWEST_HOLDERS = 2;

  private static final BitSet NOBODY = new BitSet();

  private final Basis basis;
  private final Consumer<Detection> found;
  private final Map<RoleKey, Contents.Content> given = new HashMap<>();

  /** As numbers of the principals. */
  private final Map<RoleKey, BitSet> holders;

  private AlikeRoles(Basis basis, Consumer<Detection> found) {
    this.basis = basis;
    this.found = found;
    holders = basis.engine.roleHolders(basis.at);
  }

  static void search(Basis basis, Consumer<Detection> found) {
    new AlikeRoles(basis, found).search();
  }

  private void search() {
    for (Role it : basis.catalogue.roles().values()) {
      Contents.Content content = basis.given(new Gives.OfRole(it.key())).content;
      boolean gives = content.size() + content.deny().size() > 0;
      if (!it.retired() && gives && !it.key().value().startsWith(Supplied.PREFIX)) {
        given.put(it.key(), content);
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
    List<RoleKey> roles = inOrder();
    for (RoleKey one : roles) {
      BitSet who = holders(one);
      if (who.cardinality() >= FEWEST_HOLDERS) {
        for (RoleKey two : roles) {
          if (!one.equals(two) && isWithin(who, holders(two))) {
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
        && holders(two).equals(holders(one))
        && one.value().compareTo(two.value()) < 0) {
      tell(one, two, Trouble.Likeness.TOGETHER);
    }
  }

  private static boolean isWithin(BitSet some, BitSet all) {
    for (int i = some.nextSetBit(0); i >= 0; i = some.nextSetBit(i + 1)) {
      if (!all.get(i)) {
        return false;
      }
    }
    return true;
  }

  private static boolean isWithin(Contents.Content less, Contents.Content more) {
    return less.deny().equals(more.deny())
        && more.free().containsAll(less.free())
        && less.factor().stream().allMatch(more::allows);
  }

  private void tell(RoleKey one, RoleKey two, Trouble.Likeness likeness) {
    Trouble trouble = new Trouble.AlikeRoles(one, two, likeness);
    var risk = basis.given(new Gives.OfRole(one)).risk;
    if (likeness == Trouble.Likeness.EQUAL) {
      found.accept(Detection.ofModel(trouble, risk, 1));
    } else {
      BitSet who = holders(one);
      found.accept(
          Detection.ofHomes(
              Basis.homes(who.stream().mapToObj(basis.catalogue.principals()::the).toList()),
              trouble,
              risk,
              who.cardinality()));
    }
  }

  private List<RoleKey> inOrder() {
    return basis.catalogue.roles().keySet().stream().filter(given::containsKey).toList();
  }

  private Contents.Content content(RoleKey key) {
    return Objects.requireNonNull(given.get(key));
  }

  private BitSet holders(RoleKey key) {
    return holders.getOrDefault(key, NOBODY);
  }
}
