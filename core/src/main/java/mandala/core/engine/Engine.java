package mandala.core.engine;

import java.time.Instant;
import java.util.List;
import mandala.core.model.AccessModel;
import mandala.core.model.Catalogue;
import mandala.core.model.Gives;
import mandala.core.model.Key;
import mandala.core.model.Principal;
import org.jspecify.annotations.Nullable;

/**
 * Answers questions about one model. The model is compiled once into an immutable snapshot; people
 * are compiled when first asked about and kept as long as no window near them begins or ends.
 *
 * <p>Thread-safe. A changed model needs a new engine.
 */
public final class Engine {

  private final Snapshot it;
  private final PersonCache people;

  private Engine(Snapshot it) {
    this.it = it;
    this.people = new PersonCache(it);
  }

  /**
   * {@return an engine for a model}
   *
   * @param model checked: {@code ModelCheck} finds no fault in it
   */
  public static Engine of(AccessModel model) {
    return new Engine(new Snapshot(new Catalogue(model)));
  }

  /** {@return the model's things by key} */
  public Catalogue catalogue() {
    return it.catalogue;
  }

  /** {@return the verdict on a question} (sections 6 and 7), with a reason where it is an error */
  public Decision decide(Question question) {
    Standing standing = stand(question.session());
    if (standing.error() != null) {
      return Decision.error(standing.error());
    }
    Integer permission = it.rights.permissionId.get(question.permission());
    if (permission == null) {
      return Decision.error("there is no permission '" + question.permission() + "'");
    }
    int at = it.places.find(question.resource());
    if (at < 0) {
      return Decision.error("there is no resource '" + question.resource() + "'");
    }
    if (standing.refusal() != null) {
      return Decision.of(standing.refusal());
    }
    if (it.rights.bit[it.places.type[at]][permission] < 0) {
      return Decision.of(Verdict.NOT_APPLICABLE);
    }
    if (standing.view() == null) {
      throw new IllegalStateException("Impossible state: neither refused nor viewed");
    }
    return Decision.of(standing.view().verdict(permission, at));
  }

  /**
   * {@return the whole access of a session}, which is empty where the session is refused
   *
   * @throws IllegalArgumentException if the principal or who is acted for is unknown, or the same
   */
  public Access access(Session session) {
    Standing standing = stand(session);
    if (standing.error() != null) {
      throw new IllegalArgumentException("No access to tell: " + standing.error());
    }
    Sweep sweep = new Sweep(it);
    if (standing.view() != null) {
      sweep.run(standing.view());
    }
    return new Access(it, standing.refusal(), sweep.allowed, sweep.blocked, sweep.denied);
  }

  /** Where a session stands before any permission is asked for: exactly one part is there. */
  private record Standing(@Nullable String error, @Nullable Verdict refusal, @Nullable View view) {}

  private Standing stand(Session session) {
    Integer actor = find(session.principal());
    if (actor == null) {
      return new Standing("there is no principal '" + session.principal() + "'", null, null);
    }
    long at = session.at().getEpochSecond();
    if (session.actingFor() != null) {
      return standFor(session, actor, session.actingFor(), at);
    }
    Person person = people.at(actor, at);
    return person.active
        ? new Standing(null, null, View.of(it, person, session.mfa() && hasFactor(actor)))
        : new Standing(null, Verdict.INACTIVE, null);
  }

  private Standing standFor(Session session, int actor, Key.Principal whom, long at) {
    Integer actedFor = find(whom);
    if (actedFor == null) {
      return new Standing("there is no principal '" + whom + "'", null, null);
    }
    if (actor < 0 || actedFor < 0) {
      return new Standing("nobody acts for, or as, 'anonymous'", null, null);
    }
    if (actor == actedFor.intValue()) {
      return new Standing("nobody acts for themselves", null, null);
    }
    Person delegate = people.at(actor, at);
    Person person = people.at(actedFor, at);
    if (!delegate.active || !person.active) {
      return new Standing(null, Verdict.INACTIVE, null);
    }
    Principal principal = it.directory.principals.get(actedFor);
    Pieces cover = new Pieces();
    boolean any = false;
    for (Snapshot.Limited limited : it.delegations.getOrDefault(actedFor, List.of())) {
      if (limited.delegate == actor && new Validity(at).holds(limited.time)) {
        any = true;
        limited.scope.forEach(clause -> person.covered(clause, null, cover, limited.row));
      }
    }
    int home = Snapshot.id(it.directory.accountId, principal.account());
    if (!any || !delegate.belongsTo(home)) {
      return new Standing(null, Verdict.NO_DELEGATION, null);
    }
    boolean mfa = session.mfa() && hasFactor(actor) && hasFactor(actedFor);
    return new Standing(null, null, View.of(it, delegate, person, cover, mfa));
  }

  private @Nullable Integer find(Key.Principal key) {
    return key.equals(Key.Principal.ANONYMOUS)
        ? Integer.valueOf(-1)
        : it.directory.principalId.get(key);
  }

  /** A second factor counts only for persons who are enrolled (section 5). */
  private boolean hasFactor(int principal) {
    if (principal < 0) {
      return false;
    }
    Principal who = it.directory.principals.get(principal);
    return who.kind() == Principal.Kind.PERSON && who.mfa();
  }

  /** {@return whether there is such a principal and it is active at an instant} (section 2) */
  public boolean isActive(Key.Principal principal, Instant at) {
    Integer id = find(principal);
    return id != null && people.at(id, at.getEpochSecond()).active;
  }

  /**
   * {@return the roles that a principal holds at an instant, through any subject}: activated or
   * not, each once, in the order of the assignments; inherited ones not counted
   *
   * @throws IllegalArgumentException if there is no such principal
   */
  public List<Key.Role> rolesHeld(Key.Principal principal, Instant at) {
    Integer id = find(principal);
    if (id == null) {
      throw new IllegalArgumentException("There is no principal '" + principal + "'");
    }
    return people.at(id, at.getEpochSecond()).held.stream()
        .filter(Gives.OfRole.class::isInstance)
        .map(gives -> ((Gives.OfRole) gives).key())
        .distinct()
        .toList();
  }
}
