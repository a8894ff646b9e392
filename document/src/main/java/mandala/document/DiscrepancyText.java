package mandala.document;

import java.util.List;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.reconcile.Discrepancy;

/** Says in what way another system differs from the model. */
public final class DiscrepancyText {

  /** Maximum number of places that are named. */
  private static final int MOST = 3;

  private final ChangeText text;
  private final String nobody;

  /** Text with the names of a model. */
  public DiscrepancyText(Catalogue catalogue, Naming naming) {
    text = new ChangeText(catalogue, catalogue, naming);
    nobody = naming.equals(Naming.ALL) ? "Nobody in the model" : "Nobody you can see";
  }

  /** {@return one word for a kind of discrepancy} */
  public static String kind(Discrepancy it) {
    return switch (it) {
      case Discrepancy.Missing _ -> "missing";
      case Discrepancy.Extra _ -> "extra";
      case Discrepancy.Different _ -> "different";
      case Discrepancy.UnknownPerson _ -> "unknown";
      case Discrepancy.Orphaned _ -> "orphaned";
    };
  }

  /** {@return a sentence without its full stop} */
  public String of(Discrepancy discrepancy) {
    return switch (discrepancy) {
      case Discrepancy.Missing it ->
          name(it.who())
              + " should hold "
              + name(it.permission())
              + " on "
              + places(it.places())
              + ", and the system doesn't hold it";
      case Discrepancy.Extra it ->
          name(it.who())
              + " holds "
              + name(it.permission())
              + " on "
              + places(it.places())
              + " in the system, and the model doesn't allow it";
      case Discrepancy.Different it -> different(it);
      case Discrepancy.UnknownPerson it ->
          nobody + " has the identity '" + it.identity() + "'" + lines(it.lines());
      case Discrepancy.Orphaned it ->
          name(it.who())
              + " is not active and still has the identity '"
              + it.identity()
              + "'"
              + lines(it.lines());
    };
  }

  private String different(Discrepancy.Different it) {
    String who = name(it.who());
    String what = name(it.permission());
    if (it.extra().isEmpty()) {
      return who + " should hold " + what + " on " + places(it.missing()) + ", too";
    }
    String held = who + " holds " + what + " on " + places(it.extra()) + " in the system";
    return it.missing().isEmpty()
        ? held + ", too, where the model doesn't allow it"
        : held + ", and should hold it on " + places(it.missing());
  }

  private static String lines(int many) {
    return many == 1 ? ", which holds 1 thing" : ", which holds " + many + " things";
  }

  private String name(PrincipalKey key) {
    return text.name(Kind.PRINCIPALS, key.value());
  }

  private String name(PermissionKey key) {
    return text.name(Kind.PERMISSIONS, key.value());
  }

  private String places(List<ResourceKey> places) {
    List<String> names =
        places.stream().limit(MOST).map(it -> text.name(Kind.RESOURCES, it.value())).toList();
    int more = places.size() - names.size();
    boolean commas = names.stream().anyMatch(it -> it.contains(","));
    return String.join(commas ? "; " : ", ", names) + (more == 0 ? "" : " and " + more + " more");
  }
}
