package mandala.core.engine;

import java.lang.ref.SoftReference;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Function;
import java.util.function.Predicate;
import mandala.core.change.Change;
import mandala.core.compare.ImpactStudy;
import mandala.core.compiled.Snapshot;
import mandala.core.compiled.SnapshotBuild;
import mandala.core.compiled.SnapshotEdit;
import mandala.core.compiled.directory.PrincipalSets;
import mandala.core.compiled.directory.Profile;
import mandala.core.compiled.grants.GrantEntry;
import mandala.core.evaluate.AccessMap;
import mandala.core.evaluate.AccessMapCache;
import mandala.core.evaluate.CandidateGrants;
import mandala.core.evaluate.KeptRights;
import mandala.core.evaluate.PermissionReach;
import mandala.core.evaluate.PrincipalAtInstant;
import mandala.core.evaluate.Ranges;
import mandala.core.evaluate.RightsCounter;
import mandala.core.evaluate.ScopeExtents;
import mandala.core.evaluate.SessionResolution;
import mandala.core.evaluate.SingleDecision;
import mandala.core.excess.ExcessStudy;
import mandala.core.excess.Use;
import mandala.core.excess.UseWindow;
import mandala.core.model.AccessModel;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Exclusion;
import mandala.core.model.Expectation;
import mandala.core.model.Gives;
import mandala.core.model.Principal;
import mandala.core.model.Subject;
import mandala.core.model.check.Fault;
import mandala.core.model.check.ModelCheck;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.present.Access;
import mandala.core.question.CoveredResources;
import mandala.core.question.Decision;
import mandala.core.question.ExclusionViolation;
import mandala.core.question.ExpectationViolation;
import mandala.core.question.Impact;
import mandala.core.question.Question;
import mandala.core.question.RoleHolder;
import mandala.core.question.ScopeReach;
import mandala.core.question.Session;
import mandala.core.question.Verdict;
import mandala.core.question.WhoQuestion;
import mandala.core.rule.Ownership;
import mandala.core.whocan.RoleHolders;
import mandala.core.whocan.WhoCan;
import org.jspecify.annotations.Nullable;

/**
 * Answers questions about one model. The model is compiled into an immutable snapshot; access maps
 * of people who are often asked about are kept, and found good or not for a later snapshot.
 *
 * <p>Thread-safe. A change makes a new engine ({@link #after}); this one goes on answering as
 * before. Publish an engine by one volatile write.
 */
public final class Engine {

  private final Snapshot it;
  private final AccessMapCache people;
  private SoftReference<Engine> on = new SoftReference<>(null);
  private volatile @Nullable Collection<Principal> possibleOwners;

  Engine(Snapshot it, AccessMapCache people) {
    this.it = it;
    this.people = people;
  }

  /**
   * {@return an engine for a model}
   *
   * @throws IllegalArgumentException if the model has faults ({@link ModelCheck}); the message
   *     names the first and says how many there are
   */
  public static Engine of(AccessModel model) {
    Catalogue catalogue = new Catalogue(model);
    List<Fault> faults = ModelCheck.faultsOf(model, catalogue);
    if (!faults.isEmpty()) {
      throw new IllegalArgumentException(
          "The model has " + faults.size() + " faults; the first: " + faults.getFirst());
    }
    return new Engine(SnapshotBuild.of(catalogue), new AccessMapCache());
  }

  /**
   * {@return an engine for the model after some changes}; it shares with this one what they do not
   * touch, and access maps of people whom they do not touch
   *
   * @throws IllegalArgumentException if a change does not fit the model, or leaves a faulty one;
   *     the message names it
   */
  public Engine after(List<Change> changes) {
    Snapshot after = SnapshotEdit.after(it, changes);
    return new Engine(after, after.grantIds == it.grantIds ? people : new AccessMapCache());
  }

  /**
   * {@return what changes do to everybody for themselves}, to people who come or go and to {@code
   * anonymous} too; what may be done for another is not told
   *
   * @param after the engine that {@link #after} gave for these changes
   * @param at the instant
   * @param mfa whether sessions have a second factor
   * @param watch told how far it is, and asked whether to go on
   */
  public Impact impact(
      Engine after, List<Change> changes, Instant at, boolean mfa, Impact.Watch watch) {
    return new ImpactStudy(it, after.it, changes, at.getEpochSecond(), mfa, false).run(watch);
  }

  /**
   * {@return what some changes do to everybody, with the rights that are kept by another route}; it
   * takes about twice as long
   *
   * @see #impact
   */
  public Impact impactWithRoutes(
      Engine after, List<Change> changes, Instant at, boolean mfa, Impact.Watch watch) {
    return new ImpactStudy(it, after.it, changes, at.getEpochSecond(), mfa, true).run(watch);
  }

  /**
   * {@return what some changes do to these principals only}, with the rights that are kept by
   * another route: for somebody who may not know of the others
   *
   * @param people whom to look at; each at most once
   * @see #impact
   */
  public Impact impactOn(
      Engine after,
      List<Change> changes,
      Instant at,
      boolean mfa,
      List<PrincipalKey> people,
      Impact.Watch watch) {
    return new ImpactStudy(it, after.it, changes, at.getEpochSecond(), mfa, true)
        .run(people, watch);
  }

  /**
   * Visits what changes do to principals for themselves, from an instant on: now, and at each later
   * one at which it is something else. Costs a comparison for each window's edge that matters to a
   * principal.
   *
   * @param after the engine that {@link #after} gave for these changes
   * @param people whom to look at, or null for everybody
   * @return whether it was not broken off by the watch
   */
  public boolean impactOverTime(
      Engine after,
      List<Change> changes,
      Instant from,
      boolean mfa,
      @Nullable List<PrincipalKey> people,
      Impact.Watch watch,
      Impact.Visitor visitor) {
    return new ImpactStudy(it, after.it, changes, from.getEpochSecond(), mfa, false)
        .overTime(people, watch, visitor);
  }

  /**
   * {@return whom changes may concern, now or later}
   *
   * @param after the engine that {@link #after} gave for these changes
   */
  public List<PrincipalKey> concerned(Engine after, List<Change> changes, Instant from) {
    return new ImpactStudy(it, after.it, changes, from.getEpochSecond(), true, false)
        .concernedEver();
  }

  /**
   * {@return whom changes let gain anything, or lose what must stay}, at an instant or later
   *
   * @param after the engine that {@link #after} gave for these changes
   * @param mfa whether sessions have a second factor
   * @param people whom to look at
   * @throws IllegalStateException if the changes made permissions, resources or their types come or
   *     go
   */
  public List<PrincipalKey> gainingOrLosing(
      Engine after,
      List<Change> changes,
      Instant from,
      boolean mfa,
      List<PrincipalKey> people,
      ImpactStudy.Keeping keeping) {
    return new ImpactStudy(it, after.it, changes, from.getEpochSecond(), mfa, false)
        .gainingOrLosing(people, keeping);
  }

  /**
   * {@return who loses what must stay by changes that only take away}, at an instant or later
   *
   * @param after the engine that {@link #after} gave for these changes
   * @param mfa whether sessions have a second factor
   * @param people whom to look at
   * @param kept what must stay of whom
   */
  public List<PrincipalKey> losing(
      Engine after,
      List<Change> changes,
      Instant from,
      boolean mfa,
      List<PrincipalKey> people,
      Function<PrincipalKey, KeptRights> kept) {
    return new ImpactStudy(it, after.it, changes, from.getEpochSecond(), mfa, false)
        .losing(people, kept);
  }

  /**
   * {@return a study of what people need and what is excess} (section 12); ask one about many
   *
   * @param then the engine of the model in force when the window began: this one where there is no
   *     other
   * @param use what was used within the window
   */
  public ExcessStudy excess(Engine then, Use use, UseWindow window) {
    return new ExcessStudy(it, then.it, use, window);
  }

  /**
   * {@return an engine for the model in which all that is just-in-time stands}: as if everybody had
   * switched on all that they could; kept as long as there is memory
   */
  public synchronized Engine switchedOn() {
    Engine kept = on.get();
    if (kept == null) {
      kept = allOn();
      on = new SoftReference<>(kept);
    }
    return kept;
  }

  private Engine allOn() {
    List<Change> changes = new ArrayList<>();
    it.catalogue.activations().forEach(each -> changes.add(new Change.Removed(each)));
    for (Assignment each : it.catalogue.assignments().values()) {
      if (each.mode() == Assignment.Mode.JUST_IN_TIME) {
        changes.add(new Change.Altered(each, each.standing()));
      }
    }
    return changes.isEmpty() ? this : after(changes);
  }

  Snapshot snapshot() {
    return it;
  }

  /** {@return the model's things by key} */
  public Catalogue catalogue() {
    return it.catalogue;
  }

  /** {@return the verdict on a question} (sections 6 and 7), with a reason where it is an error */
  public Decision decide(Question question) {
    Session session = question.session();
    int actor = session.actingFor() == null ? it.principal(session.principal()) : -2;
    if (actor >= -1) {
      return decideForOneself(question, actor);
    }
    SessionResolution standing = SessionResolution.of(it, session);
    if (standing instanceof SessionResolution.Unknown(String reason)) {
      return Decision.error(reason);
    }
    Integer permission = it.rights.permissionId.get(question.permission());
    int at = it.places.find(question.resource());
    if (permission == null || at < 0) {
      return unknown(question, permission == null);
    }
    if (standing instanceof SessionResolution.Refused(Verdict verdict)) {
      return Decision.of(verdict);
    }
    if (it.rights.bit[it.places.type[at]][permission] < 0) {
      return Decision.of(Verdict.NOT_APPLICABLE);
    }
    return Decision.of(SessionResolution.verdict((SessionResolution.For) standing, permission, at));
  }

  private static Decision unknown(Question question, boolean permission) {
    return Decision.error(
        permission
            ? "there is no permission '" + question.permission() + "'"
            : "there is no resource '" + question.resource() + "'");
  }

  private Decision decideForOneself(Question question, int actor) {
    Integer permission = it.rights.permissionId.get(question.permission());
    int at = it.places.find(question.resource());
    if (permission == null || at < 0) {
      return unknown(question, permission == null);
    }
    long time = question.at().getEpochSecond();
    int bit = it.rights.bit[it.places.type[at]][permission];
    boolean mfa = question.mfa() && hasFactor(actor);
    AccessMapCache.Found found = people.ifOften(it, actor, time, mfa);
    if (found != null) {
      if (!found.active()) {
        return Decision.of(Verdict.INACTIVE);
      }
      int lane = bit < 0 ? 0 : it.rights.offset[it.places.type[at]] + (bit >> 6);
      return Decision.of(
          bit < 0 ? Verdict.NOT_APPLICABLE : found.accessMap().verdict(lane, 1L << bit, at));
    }
    PrincipalAtInstant who = PrincipalAtInstant.of(it, actor, time);
    if (!who.active) {
      return Decision.of(Verdict.INACTIVE);
    }
    return Decision.of(
        bit < 0
            ? Verdict.NOT_APPLICABLE
            : new SingleDecision(who, null, mfa).verdict(permission, at));
  }

  private boolean hasFactor(int principal) {
    return principal >= 0 && PrincipalSets.has(it.people.factor(), principal);
  }

  /**
   * {@return the whole access of a session}, which is empty where the session is refused
   *
   * @throws IllegalArgumentException if the principal or who is acted for is unknown, or the same
   */
  public Access access(Session session) {
    return switch (SessionResolution.of(it, session)) {
      case SessionResolution.Unknown(String reason) ->
          throw new IllegalArgumentException("No access to tell: " + reason);
      case SessionResolution.Refused(Verdict verdict) -> new Access(it, verdict, AccessMap.EMPTY);
      case SessionResolution.Oneself(PrincipalAtInstant who, boolean mfa) ->
          new Access(it, null, people.of(it, who.id, who.at, mfa).accessMap());
      case SessionResolution.For standing ->
          new Access(it, null, SessionResolution.accessMap(standing));
    };
  }

  /**
   * {@return whether one session after the other is allowed one of some permissions anywhere in a
   * scope}, acting for nobody; relative terms are left out of their clauses. For one thread.
   */
  public Predicate<Session> allowing(Collection<PermissionKey> permissions, List<Clause> scope) {
    PermissionReach reach = reach(permissions);
    PermissionReach.Places places = reach.places(scope);
    Ranges ranges = new Ranges(it, places.spans());
    RightsCounter counter = new RightsCounter(it);
    return session ->
        SessionResolution.of(it, session)
                instanceof SessionResolution.Oneself(PrincipalAtInstant who, boolean mfa)
            && reach.isAllowed(counter.within(who, mfa, ranges), places);
  }

  /** {@return an access in which nothing is allowed}: that of somebody whom the model lacks */
  public Access nothing() {
    return new Access(it, Verdict.INACTIVE, AccessMap.EMPTY);
  }

  /**
   * {@return the number of rights of a session}, without drawing up its whole access; 0 where it is
   * refused
   *
   * @throws IllegalArgumentException as for {@link #access}
   */
  public long rights(Session session) {
    if (SessionResolution.of(it, session)
        instanceof SessionResolution.Oneself(PrincipalAtInstant who, boolean mfa)) {
      return new RightsCounter(it).rights(who, mfa);
    }
    return access(session).rights();
  }

  /** {@return the same as {@link #decide}, with nothing kept: for measuring, and for tests} */
  public Decision decideAfresh(Question question) {
    return new Engine(it, AccessMapCache.NEVER).decide(question);
  }

  /** {@return the same as {@link #access}, with nothing kept: for measuring, and for tests} */
  public Access accessAfresh(Session session) {
    return SessionResolution.of(it, session)
            instanceof SessionResolution.Oneself(PrincipalAtInstant who, boolean mfa)
        ? new Access(it, null, AccessMapCache.accessMap(who, mfa))
        : access(session);
  }

  /**
   * {@return the number of rights of many sessions together}, on all threads
   *
   * @throws IllegalArgumentException as for {@link #access}
   */
  public long rightsOfAll(List<Session> sessions) {
    int batch = 256;
    return java.util.stream.IntStream.range(0, (sessions.size() + batch - 1) / batch)
        .parallel()
        .mapToLong(number -> {
          RightsCounter counting = new RightsCounter(it);
          long sum = 0;
          int end = Math.min(sessions.size(), (number + 1) * batch);
          for (Session session : sessions.subList(number * batch, end)) {
            sum +=
                SessionResolution.of(it, session)
                        instanceof SessionResolution.Oneself(PrincipalAtInstant who, boolean mfa)
                    ? counting.rights(who, mfa)
                    : access(session).rights();
          }
          return sum;
        })
        .sum();
  }

  /**
   * {@return who can do something somewhere}
   *
   * @throws IllegalArgumentException if a permission, a resource or a collection is unknown
   */
  public WhoQuestion.Answer whoCan(WhoQuestion question) {
    return new WhoCan(it, question, WhoCan.FEW).answer();
  }

  /**
   * {@return what may bear on a permission on a resource}
   *
   * @param subjects of whom all is told; their groups may be retired
   * @throws IllegalArgumentException if the permission or the resource is unknown
   */
  public CandidateGrants bearing(
      Collection<Subject> subjects, PermissionKey permission, ResourceKey resource) {
    return CandidateGrants.of(it, subjects, number(permission), position(resource));
  }

  /**
   * {@return what gives a permission on a resource to others only}
   *
   * @param subjects whose own is left out
   * @param most how many clauses to look at
   * @throws IllegalArgumentException if the permission or the resource is unknown
   */
  public CandidateGrants.Others givenToOthers(
      Collection<Subject> subjects, PermissionKey permission, ResourceKey resource, int most) {
    return CandidateGrants.others(it, subjects, number(permission), position(resource), most);
  }

  private int number(PermissionKey permission) {
    Integer number = it.rights.permissionId.get(permission);
    if (number == null) {
      throw new IllegalArgumentException("There is no permission '" + permission + "'");
    }
    return number;
  }

  private int position(ResourceKey resource) {
    int at = it.places.find(resource);
    if (at < 0) {
      throw new IllegalArgumentException("There is no resource '" + resource + "'");
    }
    return at;
  }

  /** {@return whether there is such a principal and it is active at an instant} (section 2) */
  public boolean isActive(PrincipalKey principal, Instant at) {
    int id = it.principal(principal);
    if (id < 0) {
      return id == -1;
    }
    Profile profile = it.directory.profiles.require(id);
    return profile.enabled && profile.times.holdsAt(at.getEpochSecond());
  }

  /**
   * {@return what a scope covers}; relative terms are left out of their clauses
   *
   * @param most how many resources to name
   * @throws IllegalArgumentException if it names something unknown
   */
  public CoveredResources covered(List<Clause> scope, int most) {
    return new ScopeExtents(it).covered(scope, most, null);
  }

  /**
   * {@return what a scope covers of some accounts}, all else left out of every number: for somebody
   * who may not know of the rest
   *
   * @throws IllegalArgumentException if it names something unknown
   * @see #covered(List, int)
   */
  public CoveredResources covered(List<Clause> scope, int most, Set<AccountKey> within) {
    return new ScopeExtents(it).covered(scope, most, within);
  }

  /**
   * {@return on what some permissions may be given by a scope}, seals aside; relative terms are
   * left out of their clauses
   *
   * @param within a resource below which alone is looked, null for everywhere
   * @param most how many resources to name
   */
  public ScopeReach reach(
      List<Clause> scope,
      Collection<PermissionKey> permissions,
      @Nullable ResourceKey within,
      int most) {
    return reach(permissions).of(scope, within, most);
  }

  /** {@return the same}, for asking about many scopes that give some permissions */
  public PermissionReach reach(Collection<PermissionKey> permissions) {
    return new PermissionReach(it, permissions);
  }

  /**
   * {@return what breaks an expectation at an instant}, none where it holds (section 9); everybody
   * with their second factor
   */
  public List<ExpectationViolation> breaches(Expectation expectation, Instant at) {
    return new RuleChecks(it, at).breaches(expectation);
  }

  /**
   * {@return who takes too many sides of an exclusion at an instant}, by key (section 8); everybody
   * with their second factor, those who are exempt left out
   */
  public List<ExclusionViolation> conflicts(Exclusion exclusion, Instant at) {
    return new RuleChecks(it, at).conflicts(exclusion);
  }

  /**
   * {@return how somebody who acts for another breaks an exclusion at an instant} by what both may
   * do together; null where they do not, or are exempt
   *
   * @throws IllegalArgumentException if one of them is unknown, or both are the same
   */
  public @Nullable ExclusionViolation conflictActing(
      Exclusion exclusion, PrincipalKey actor, PrincipalKey whose, Instant at) {
    return new RuleChecks(it, at).conflictActing(exclusion, actor, whose);
  }

  /**
   * {@return whether a subject is one of a principal's at an instant} (section 2)
   *
   * @throws IllegalArgumentException if either is unknown
   */
  public boolean hasSubject(PrincipalKey principal, Subject subject, Instant at) {
    int code = GrantEntry.code(subject, it.catalogue);
    return Arrays.stream(who(principal, at).subjects).anyMatch(held -> held == code);
  }

  /**
   * {@return which subjects are a principal's at an instant} (section 2): for asking about many of
   * them, as {@link #hasSubject} would answer
   *
   * @throws IllegalArgumentException if the principal is unknown
   */
  public Predicate<Subject> subjectsOf(PrincipalKey principal, Instant at) {
    int[] held = who(principal, at).subjects.clone();
    Arrays.sort(held);
    return subject -> Arrays.binarySearch(held, GrantEntry.code(subject, it.catalogue)) >= 0;
  }

  private PrincipalAtInstant who(PrincipalKey principal, Instant at) {
    int id = it.principal(principal);
    if (id < -1) {
      throw new IllegalArgumentException("There is no principal '" + principal + "'");
    }
    return PrincipalAtInstant.of(it, id, at.getEpochSecond());
  }

  /**
   * {@return whether a standing assignment without an end gives a principal {@code mandala.owner}
   * on an account} (section 11)
   *
   * @throws IllegalArgumentException if either is unknown
   */
  public boolean owns(PrincipalKey principal, AccountKey account, Instant at) {
    return new SingleDecision(who(principal, at), null, true)
        .isCoveredBy(
            it -> Ownership.isGivenBy(catalogue().assignments().the(it), catalogue()),
            position(ResourceKey.of(account)));
  }

  /**
   * {@return who comes into question as an owner of an account} (section 11), found by looking at
   * every assignment once
   */
  public Collection<Principal> possibleOwners() {
    Collection<Principal> known = possibleOwners;
    if (known == null) {
      known = Ownership.possibleOwners(it.catalogue.assignments().values(), it.catalogue);
      possibleOwners = known;
    }
    return known;
  }

  /**
   * {@return the roles that a principal holds at an instant, through any subject}: activated or
   * not, each once, in the order of the assignments, those by bridges last; inherited ones not
   * counted
   *
   * @throws IllegalArgumentException if there is no such principal
   */
  public List<RoleKey> rolesHeld(PrincipalKey principal, Instant at) {
    PrincipalAtInstant who = who(principal, at);
    Set<Integer> refs = new TreeSet<>(Integer::compareUnsigned);
    for (int subject : who.subjects) {
      long[] lines = it.lines(false, subject);
      int n = lines == null ? 0 : lines.length / 3;
      for (int i = 0; i < n && lines != null; i++) {
        refs.add((int) lines[2 * n + i]);
      }
    }
    List<RoleKey> roles = new ArrayList<>();
    for (int ref : refs) {
      Gives gives =
          ref < 0
              ? it.catalogue.bridges().the(~ref).gives()
              : it.catalogue.assignments().the(ref).gives();
      if (gives instanceof Gives.OfRole(RoleKey key) && who.holds(ref, false)) {
        roles.add(key);
      }
    }
    return roles.stream().distinct().toList();
  }

  /**
   * {@return who has a subject at an instant, active or not}, in the order of the model: those of
   * whom {@link #hasSubject} says so, found from the subject
   *
   * @throws IllegalArgumentException if it is unknown
   */
  public List<Principal> having(Subject subject, Instant at) {
    return new RoleHolders(it, at)
        .having(subject).stream().mapToObj(it.catalogue.principals()::the).toList();
  }

  /** {@return the same}, for asking about many subjects; for one thread */
  public Function<Subject, List<Principal>> having(Instant at) {
    RoleHolders holders = new RoleHolders(it, at);
    return subject ->
        Arrays.stream(holders.once(subject)).mapToObj(it.catalogue.principals()::the).toList();
  }

  /**
   * {@return by role, who holds it at an instant, active or not}, as numbers of the catalogue's
   * principals; roles that nobody holds are left out
   */
  public Map<RoleKey, BitSet> roleHolders(Instant at) {
    return new RoleHolders(it, at).all();
  }

  /**
   * {@return who holds a role at an instant, active or not, and through what}: those whose {@link
   * #rolesHeld} contain it, found from what gives it
   */
  public List<RoleHolder> roleHolders(RoleKey role, Instant at) {
    return new RoleHolders(it, at).of(role);
  }

  /**
   * {@return how many principals hold each role at an instant}; roles that none of them holds are
   * left out
   *
   * @param counted which principals count; asked once of each who holds anything
   */
  public Map<RoleKey, Integer> roleUse(Instant at, Predicate<Principal> counted) {
    Map<RoleKey, BitSet> holders = roleHolders(at);
    BitSet who = new BitSet();
    holders.values().forEach(who::or);
    BitSet left = (BitSet) who.clone();
    who.stream().filter(p -> !counted.test(it.catalogue.principals().the(p))).forEach(left::clear);
    Map<RoleKey, Integer> use = new LinkedHashMap<>();
    holders.forEach((role, bits) -> {
      bits.and(left);
      if (!bits.isEmpty()) {
        use.put(role, bits.cardinality());
      }
    });
    return use;
  }
}
