package mandala.server.reconcile;

import java.util.ArrayList;
import java.util.List;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.reconcile.Discrepancy;
import mandala.server.authorization.ReadPolicy;
import mandala.server.authorization.RequestContext;
import org.springframework.stereotype.Component;

/**
 * Reads what a viewer may know of discrepancies. One about somebody's access is read by whoever may
 * see all of it, and read everything that it names (section 11); an identity that means somebody
 * whom the viewer may not read is nobody to them.
 */
@Component
class DiscrepancyReader {

  private final SystemStore systems;
  private final DiscrepancyStore discrepancies;

  DiscrepancyReader(SystemStore systems, DiscrepancyStore discrepancies) {
    this.systems = systems;
    this.discrepancies = discrepancies;
  }

  /**
   * What a viewer may know of.
   *
   * @param elsewhere whether there is more
   */
  record Seen(List<KeptDiscrepancy> all, boolean elsewhere) {}

  /** {@return what a viewer may know of a system's discrepancies} */
  Seen seen(ConnectedSystem system, RequestContext context) {
    List<KeptDiscrepancy> all = new ArrayList<>();
    boolean elsewhere = false;
    for (KeptDiscrepancy it : discrepancies.all(system.key())) {
      if (isTold(it.it(), context)) {
        all.add(it);
      } else {
        elsewhere |= !(it.it() instanceof Discrepancy.Orphaned);
      }
    }
    all.addAll(strangers(system, context));
    return new Seen(all, elsewhere);
  }

  /**
   * Identities that are nobody's, and those of people whom the viewer may not read: which of the
   * two must not show, so what follows without a pause is one.
   */
  private List<KeptDiscrepancy> strangers(ConnectedSystem system, RequestContext context) {
    List<KeptDiscrepancy> strangers = new ArrayList<>();
    for (SystemStore.Identity it : systems.identities(system.key())) {
      if (it.who() != null && isKnown(new PrincipalKey(it.who()), context)) {
        continue;
      }
      KeptDiscrepancy last = strangers.isEmpty() ? null : strangers.getLast();
      boolean goesOn =
          last != null
              && it.identity().equals(last.it().identity())
              && Integer.valueOf(it.first()).equals(last.gone());
      if (goesOn) {
        strangers.removeLast();
      }
      strangers.add(
          new KeptDiscrepancy(
              new Discrepancy.UnknownPerson(it.identity(), it.lines()),
              goesOn && last != null ? last.first() : it.first(),
              it.gone(),
              it.held()));
    }
    return strangers;
  }

  private static boolean isTold(Discrepancy it, RequestContext context) {
    ReadPolicy policy = context.readPolicy();
    PrincipalKey who = it.who();
    if (who == null) {
      return true;
    }
    if (!isKnown(who, context)) {
      return false;
    }
    Catalogue catalogue = context.state().engine().catalogue();
    PermissionKey permission = it.permission();
    return permission == null
        || (catalogue.permissions().containsKey(permission)
            && context.naming().tells(Kind.PERMISSIONS, permission.value())
            && places(it).stream()
                .allMatch(place ->
                    catalogue.has(place)
                        && context.naming().tells(place)
                        && policy.mayBeTold(who, place)));
  }

  /** Whoever has left the model is nobody, too. */
  private static boolean isKnown(PrincipalKey who, RequestContext context) {
    return context.state().engine().catalogue().principals().containsKey(who)
        && context.naming().tells(Kind.PRINCIPALS, who.value());
  }

  /** {@return all places of a discrepancy} */
  static List<ResourceKey> places(Discrepancy it) {
    List<ResourceKey> places = new ArrayList<>(it.extra());
    places.addAll(it.missing());
    return places;
  }
}
