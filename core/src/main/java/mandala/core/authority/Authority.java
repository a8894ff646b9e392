package mandala.core.authority;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.BiPredicate;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.engine.Engine;
import mandala.core.model.Account;
import mandala.core.model.Activation;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Principal;
import mandala.core.model.Resource;
import mandala.core.model.Role;
import mandala.core.model.Supplied;
import mandala.core.model.Thing;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.question.Session;
import mandala.core.question.WhoQuestion;
import mandala.core.rule.Ownership;
import org.jspecify.annotations.Nullable;

/**
 * Judges a draft by section 11: whether its author may make each of its changes, and who else must
 * agree. All rights are judged in the model before, at the session's instant and with its second
 * factor. Immutable.
 */
public final class Authority {

  private final Engine before;
  private final Draft draft;
  private final Catalogue after;
  private final Session session;
  private final Map<Change, List<RequiredRight>> demands = new LinkedHashMap<>();

  private Authority(Engine before, Draft draft, Session session) {
    this.before = before;
    this.draft = draft;
    this.session = session;
    this.after = draft.appliedUnchecked(before.catalogue());
    for (Change change : draft.changes()) {
      demands.put(
          change, RequiredRights.of(change, before.catalogue(), after, session.principal()));
    }
  }

  /**
   * {@return the judgement of a draft}
   *
   * @param session the author's own, acting for nobody
   * @throws IllegalArgumentException if the draft does not fit the model, or the session acts for
   *     another
   */
  public static Authority of(Engine before, Draft draft, Session session) {
    if (session.actingFor() != null) {
      throw new IllegalArgumentException(
          "You can't change the model while acting for someone else");
    }
    return new Authority(before, draft, session);
  }

  /**
   * {@return the first demand of changing a thing that its author does not meet} (section 11, "who
   * may change what"); empty where the thing may be altered
   *
   * @param catalogue the model in force, which has the thing
   * @param may whether the author is allowed a permission on a resource
   */
  public static Optional<RequiredRight> missing(
      Catalogue catalogue,
      Thing thing,
      PrincipalKey author,
      BiPredicate<PermissionKey, ResourceKey> may) {
    return missing(new Change.Altered(thing, thing), catalogue, catalogue, author, may);
  }

  /**
   * {@return the first demand of a change that its author does not meet}; empty where they meet all
   *
   * @param after the model with the change
   * @param may whether the author is allowed a permission on a resource
   */
  public static Optional<RequiredRight> missing(
      Change change,
      Catalogue before,
      Catalogue after,
      PrincipalKey author,
      BiPredicate<PermissionKey, ResourceKey> may) {
    return RequiredRights.of(change, before, after, author).stream()
        .filter(it -> it.anyOf().stream().noneMatch(on -> may.test(it.permission(), on)))
        .findFirst();
  }

  /** {@return whose draft it is} */
  public PrincipalKey author() {
    return session.principal();
  }

  /** {@return what a change of the draft asks for} */
  public List<RequiredRight> demandsOf(Change change) {
    return demands.getOrDefault(change, List.of());
  }

  /** {@return every demand of the draft}, each once */
  public List<RequiredRight> demands() {
    Set<RequiredRight> all = new LinkedHashSet<>();
    demands.values().forEach(all::addAll);
    return List.copyOf(all);
  }

  /** {@return every resource that the draft names} */
  public List<ResourceKey> named() {
    Set<ResourceKey> named = new LinkedHashSet<>();
    demands().forEach(demand -> named.addAll(demand.anyOf()));
    return List.copyOf(named);
  }

  /**
   * {@return on what a second person must be able to approve the draft}: what it names, and the
   * accounts of places, for {@code mandala.draft.approve} applies to no type of place (section 11)
   */
  public List<ResourceKey> approvedOn() {
    Set<ResourceKey> on = new LinkedHashSet<>();
    for (ResourceKey it : named()) {
      Resource place = before.catalogue().resources().get(it);
      on.add(place == null ? it : ResourceKey.of(place.account()));
    }
    return List.copyOf(on);
  }

  /** {@return why the author may not make the draft}, change by change; none where it may */
  public List<Refusal> refusals() {
    List<Refusal> refusals = new ArrayList<>();
    for (Change change : draft.changes()) {
      Refusal refusal = refusal(change);
      if (refusal != null) {
        refusals.add(refusal);
      }
      for (RequiredRight demand : demandsOf(change)) {
        if (demand.anyOf().stream().noneMatch(it -> may(session, demand.permission(), it))) {
          refusals.add(new Refusal.Lacking(change, demand));
        }
      }
    }
    return refusals;
  }

  private boolean may(Session who, PermissionKey permission, ResourceKey resource) {
    return before.decide(who.asks(permission, resource)).allowed();
  }

  private @Nullable Refusal refusal(Change change) {
    Thing now =
        switch (change) {
          case Change.Added(Thing thing) -> thing;
          case Change.Altered(var _, Thing thing) -> thing;
          case Change.Removed _ -> null;
        };
    Thing old =
        switch (change) {
          case Change.Added _ -> null;
          case Change.Altered(Thing thing, var _) -> thing;
          case Change.Removed(Thing thing) -> thing;
        };
    if (now instanceof Account it
        && it.parent() == null
        && (old == null || ((Account) old).parent() != null)) {
      return new Refusal.NewRoot(change);
    }
    if (old instanceof Bridge was
        && now instanceof Bridge is
        && was.status() != Bridge.Status.OFFERED
        && !(was.gives().equals(is.gives())
            && was.scope().equals(is.scope())
            && was.group().equals(is.group())
            && was.account().equals(is.account()))) {
      return new Refusal.NotOffered(change);
    }
    Thing any = now == null ? old : now;
    return any instanceof Activation it && !mayActivate(it, now != null)
        ? new Refusal.NotOneself(change)
        : null;
  }

  private boolean mayActivate(Activation it, boolean comes) {
    Assignment assignment = before.catalogue().assignments().get(it.assignment());
    return it.principal().equals(session.principal())
        && (!comes
            || (assignment != null
                && before.hasSubject(it.principal(), assignment.subject(), session.at())));
  }

  /**
   * {@return whether somebody may approve the draft}: active, not the author, and allowed {@code
   * mandala.draft.approve} on {@link #approvedOn}
   *
   * @param approver with the second factor as in the approver's session
   */
  public boolean mayApprove(Session approver) {
    return !approver.principal().equals(session.principal())
        && before.isActive(approver.principal(), approver.at())
        && approvedOn().stream().allMatch(it -> may(approver, Supplied.DRAFT_APPROVE, it));
  }

  /**
   * {@return who could make a change that this author may not}, those enrolled with their factor
   */
  public List<PrincipalKey> whoCould(RequiredRight demand) {
    List<PrincipalKey> found = new ArrayList<>();
    for (ResourceKey resource : demand.anyOf()) {
      if (before.catalogue().has(resource)) {
        before
            .whoCan(WhoQuestion.of(demand.permission(), resource, session.at(), true))
            .allowed()
            .forEach(holder -> found.add(holder.principal()));
      }
    }
    return found.stream().distinct().toList();
  }

  /** {@return who could approve the draft} */
  public List<PrincipalKey> whoCouldApprove() {
    return othersWhoCould(
        approvedOn().stream().map(it -> RequiredRight.of(Supplied.DRAFT_APPROVE, it)).toList());
  }

  /** {@return who else has every permission that the draft asks for} */
  public List<PrincipalKey> whoCouldMake() {
    return othersWhoCould(demands());
  }

  private List<PrincipalKey> othersWhoCould(List<RequiredRight> all) {
    Set<PrincipalKey> found = null;
    for (RequiredRight demand : all) {
      List<PrincipalKey> here = whoCould(demand);
      if (found == null) {
        found = new LinkedHashSet<>(here);
      } else {
        found.retainAll(here);
      }
      if (found.isEmpty()) {
        return List.of();
      }
    }
    if (found == null) {
      return List.of();
    }
    found.remove(session.principal());
    return List.copyOf(found);
  }

  /** {@return the root accounts that have an owner before and none after} */
  public List<Refusal> ownerless(Engine after) {
    List<Refusal> refusals = new ArrayList<>();
    Instant at = session.at();
    Collection<Principal> once = before.possibleOwners();
    Collection<Principal> then = possibleOwnersAfter(once, after.catalogue());
    for (Account account : before.catalogue().accounts().values()) {
      if (account.parent() == null
          && after.catalogue().accounts().containsKey(account.key())
          && once.stream().anyMatch(it -> owns(before, it, account.key(), at))
          && then.stream().noneMatch(it -> owns(after, it, account.key(), at))) {
        refusals.add(new Refusal.LastOwner(account.key()));
      }
    }
    return refusals;
  }

  /**
   * {@return the owners of an account}: active enrolled persons without an {@code until} of their
   * own to whom a standing assignment without {@code until} gives {@code mandala.owner} on it
   */
  public static List<PrincipalKey> ownersOf(Engine engine, AccountKey account, Instant at) {
    return engine.possibleOwners().stream()
        .filter(it -> owns(engine, it, account, at))
        .map(Principal::key)
        .toList();
  }

  private static boolean owns(Engine engine, Principal it, AccountKey account, Instant at) {
    return couldOwn(engine, it, at) && engine.owns(it.key(), account, at);
  }

  /** {@return whether somebody could own an account}: an active enrolled person without an end */
  public static boolean couldOwn(Engine engine, Principal it, Instant at) {
    return it.kind() == Principal.Kind.PERSON
        && it.mfa()
        && it.window().until() == null
        && engine.isActive(it.key(), at);
  }

  /**
   * The same after the draft: who came into question before, and whom changed assignments name. All
   * of them where a role changes, for by its juniors it may come to ownership.
   */
  private Collection<Principal> possibleOwnersAfter(Collection<Principal> once, Catalogue after) {
    if (once.size() == before.catalogue().principals().size()) {
      return after.principals().values(); // who comes with the draft, too
    }
    List<Assignment> changed = new ArrayList<>();
    for (Change change : draft.changes()) {
      Thing last = change.things().getLast();
      if (last instanceof Role) {
        return after.principals().values();
      }
      if (last instanceof Assignment it && !(change instanceof Change.Removed)) {
        changed.add(it);
      }
    }
    Set<Principal> then = new LinkedHashSet<>(Ownership.possibleOwners(changed, after));
    once.stream()
        .map(it -> after.principals().get(it.key()))
        .filter(Objects::nonNull)
        .map(Objects::requireNonNull)
        .forEach(then::add);
    return then;
  }

  /**
   * {@return the anchors of an assignment}: the resources that its scopes name; every root account
   * where a clause names none (section 11)
   */
  public static Set<ResourceKey> anchorsOf(Assignment assignment, Catalogue catalogue) {
    Set<ResourceKey> anchors = new LinkedHashSet<>();
    List<Clause> clauses = new ArrayList<>(assignment.scope());
    clauses.addAll(assignment.viewScope());
    boolean everywhere = assignment.scope().isEmpty();
    for (Clause clause : clauses) {
      Set<ResourceKey> named = RequiredRights.anchors(clause, assignment.subject(), catalogue);
      everywhere |= named.isEmpty();
      anchors.addAll(named);
    }
    for (Account account : catalogue.accounts().values()) {
      if (everywhere && account.parent() == null) {
        anchors.add(ResourceKey.of(account.key()));
      }
    }
    return anchors;
  }
}
