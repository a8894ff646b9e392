package mandala.server.question;

import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import mandala.core.engine.Engine;
import mandala.core.explain.Routes;
import mandala.core.model.Catalogue;
import mandala.core.model.Delegation;
import mandala.core.model.Principal;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.present.Access;
import mandala.core.question.Session;
import mandala.core.question.Verdict;
import mandala.document.Naming;
import mandala.server.authorization.AskablePrincipal;
import mandala.server.authorization.RequestContext;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;

/**
 * A session that is asked about: whose, when, how signed in, for whom, with what switched on, in
 * which model. Made for one call.
 *
 * @param cut whether a draft is laid over of which the answer tells only in the accounts that the
 *     viewer may read; where there are none, the draft is left out
 * @param engine of the model that is asked about, with what is switched on
 * @param session for oneself where everybody is acted for
 * @param everybody whether what could be done for others is asked together with one's own
 * @param absence why nothing is held in the model that is asked about, though the model in force or
 *     a draft knows who is meant: {@link #ABSENT} or the word of a verdict; else null
 */
record AccessQuestion(
    RequestContext context,
    boolean cut,
    Engine engine,
    AskablePrincipal asked,
    Session session,
    boolean everybody,
    @Nullable String absence) {

  /** The principal is not in the model that is asked about. */
  static final String ABSENT = "absent";

  /** Stands for oneself and everybody whom one may act for; no key is written so. */
  static final String EVERYBODY = "*";

  /**
   * Somebody who is acted for, and what comes from them.
   *
   * @param rights how many of theirs are within reach
   * @param more how many of these one has not oneself
   */
  record Through(Principal whom, long rights, long more) {}

  /**
   * What is held in all; {@code hidden} whether there are others whom the viewer may not ask about.
   */
  record Held(Access access, List<Through> through, boolean hidden) {}

  /**
   * {@return what is asked about}
   *
   * @throws mandala.server.platform.Problem if the viewer may not ask, or something is unknown
   */
  static AccessQuestion of(
      RequestContext context,
      String principal,
      @Nullable Instant at,
      boolean secondFactor,
      @Nullable String actingFor,
      @Nullable List<String> on) {
    boolean everybody = EVERYBODY.equals(actingFor);
    AskablePrincipal asked = AskablePrincipal.of(context, principal, everybody ? null : actingFor);
    Set<AccountKey> within = context.draftedWithin();
    RequestContext seen = within != null && within.isEmpty() ? context.live() : context;
    if (within != null && !within.isEmpty()) {
      asked = asked.within(within);
    }
    Engine engine = seen.asked().engine();
    String absence =
        isAbsent(asked.principal(), engine.catalogue())
            ? ABSENT
            : isAbsent(asked.actingFor(), engine.catalogue()) ? Verdict.NO_DELEGATION.word() : null;
    Instant when = context.instantOrNow(at);
    PrincipalKey who = asked.principal().key();
    return new AccessQuestion(
        seen,
        within != null,
        absence == null ? SwitchedOn.with(engine, who, when, on) : engine,
        asked,
        new Session(who, when, secondFactor, asked.actingForKey()),
        everybody,
        absence);
  }

  /** A past model or a draft may lack somebody who is there now. */
  private static boolean isAbsent(@Nullable Principal principal, Catalogue in) {
    return principal != null && !in.principals().containsKey(principal.key());
  }

  /**
   * For questions that have no answer about somebody who is not there.
   *
   * @throws Problem if the model that is asked about lacks somebody
   */
  AccessQuestion requirePresent() {
    if (absence != null) {
      Principal missing =
          ABSENT.equals(absence) || asked.actingFor() == null
              ? asked.principal()
              : asked.actingFor();
      throw Problem.notFound(
          "'"
              + missing.key()
              + "' is not in the directory of the model that you ask about. Choose another"
              + " revision, or leave the draft out.");
    }
    return this;
  }

  /** {@return why nothing is allowed at all}, null where that is not so */
  @Nullable String refusal(Access access) {
    return absence == null ? access.refusal().map(Verdict::word).orElse(null) : absence;
  }

  Catalogue catalogue() {
    return engine.catalogue();
  }

  /**
   * {@return the account of a resource that the viewer may ask about}, null where there is no such
   * resource to their eyes
   */
  @Nullable AccountKey askableAccount(ResourceKey resource, Naming naming) {
    return asked.askableAccount(resource, catalogue(), naming);
  }

  /** {@return what the principal could activate then}; none where they are absent */
  List<SwitchedOn.SwitchableView> switchable(Naming naming) {
    return absence == null
        ? SwitchedOn.of(context.asked().engine(), asked.principal().key(), session.at(), naming)
        : List.of();
  }

  /**
   * {@return what the answer may name}
   *
   * @param access what it tells of
   */
  Naming naming(Access access) {
    List<Principal> whom = new ArrayList<>(List.of(asked.principal()));
    if (asked.actingFor() != null) {
      whom.add(asked.actingFor());
    }
    boolean inForce = !context.isPast() && !context.isDrafted();
    return context.about(whom, asked.only(), inForce ? access : null);
  }

  @SuppressWarnings("ReferenceEquality") // an engine is one state of the model
  Routes routes() {
    return engine == context.asked().engine() ? context.asked().routes() : Routes.of(engine);
  }

  /** {@return all that is held}, put together from what comes from whom */
  Held held() {
    if (absence != null) {
      return new Held(engine.nothing(), List.of(), false);
    }
    Access own = engine.access(session);
    if (!everybody) {
      return new Held(own, List.of(), false);
    }
    List<Access> all = new ArrayList<>(List.of(own));
    List<Through> through = new ArrayList<>();
    boolean hidden = false;
    for (Principal whom : actedFor()) {
      if (!AskablePrincipal.mayAskFor(context.readPolicy(), asked.principal(), whom)) {
        hidden = true;
        continue;
      }
      Access theirs = engine.access(sessionFor(whom));
      if (theirs.refusal().isEmpty()) {
        all.add(theirs);
        through.add(new Through(whom, theirs.rights(), theirs.beyond(own).rights()));
      }
    }
    Access held = all.size() == 1 ? own : Access.together(all);
    return new Held(held, through, hidden);
  }

  private Session sessionFor(Principal whom) {
    return new Session(session.principal(), session.at(), session.mfa(), whom.key());
  }

  /** Everybody with a delegation in force, by key of the delegation. */
  private List<Principal> actedFor() {
    Set<Principal> found = new LinkedHashSet<>();
    for (Delegation it : catalogue().delegations().values()) {
      Principal whom = catalogue().principals().get(it.principal());
      if (it.delegate().equals(session.principal())
          && it.window().holdsAt(session.at())
          && whom != null) {
        found.add(whom);
      }
    }
    return List.copyOf(found);
  }

  /**
   * {@return the session that has a right}: of everybody who could be acted for, one by whom it is
   * allowed; one's own where none is
   */
  Session sessionFor(PermissionKey permission, ResourceKey resource) {
    if (!everybody || engine.decide(session.asks(permission, resource)).allowed()) {
      return session;
    }
    return actedFor().stream()
        .filter(it -> AskablePrincipal.mayAskFor(context.readPolicy(), asked.principal(), it))
        .map(this::sessionFor)
        .filter(it -> engine.decide(it.asks(permission, resource)).allowed())
        .findFirst()
        .orElse(session);
  }
}
