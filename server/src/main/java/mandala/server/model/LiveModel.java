package mandala.server.model;

import jakarta.persistence.EntityManager;
import jakarta.persistence.LockModeType;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.ObjLongConsumer;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.engine.Engine;
import mandala.core.explain.Routes;
import mandala.core.model.AccessModel;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Principal;
import mandala.core.model.Thing;
import mandala.core.model.key.PrincipalKey;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * The model that this instance answers from: read from the database at the start, then replaced by
 * one volatile write after each committed change, its own or another instance's ({@link
 * RevisionListener}). Thread-safe.
 *
 * <p>A change is one transaction: rows, the revision's number, what it touched, and a notification
 * that PostgreSQL sends when it commits. Whoever takes it up compares numbers, so that nothing is
 * missed or taken twice, whatever becomes of notifications.
 */
@Component
public class LiveModel {

  /** The channel on which revisions are told. */
  static final String CHANNEL = "mandala_model";

  /** Touches are kept for so many revisions; who is further behind reads the whole model. */
  private static final long KEPT = 10_000;

  private static final String WHOLE = "WHOLE";
  private static final int ATTEMPTS = 20;

  private final EntityManager entities;
  private final ModelTables tables;
  private final TransactionTemplate transactions;
  private final Clock clock;
  private final Loading loading;
  private final History history;
  private final ObjectProvider<Departure> departures;
  private final ObjectProvider<StatusListener> statuses;
  private volatile @Nullable State state;

  /** Of the engine that is known, once it was asked for; guarded by this. */
  private @Nullable Digested digested;

  private record Digested(Engine engine, ModelDigest digest) {}

  LiveModel(
      EntityManager entities,
      ModelTables tables,
      TransactionTemplate transactions,
      Clock clock,
      Loading loading,
      History history,
      ObjectProvider<Departure> departures,
      ObjectProvider<StatusListener> statuses) {
    this.departures = departures;
    this.statuses = statuses;
    this.entities = entities;
    this.tables = tables;
    this.transactions = transactions;
    this.clock = clock;
    this.loading = loading;
    this.history = history;
  }

  /**
   * One state of the model.
   *
   * @param revision its number, 0 before anything was imported
   * @param demo whether it is the demo, whose people may be chosen by a click
   * @param people its principals in the order of their names
   */
  public record State(
      long revision, boolean demo, Engine engine, Routes routes, PeopleByName people) {
    /** {@return a state that an engine answers for} */
    public static State of(long revision, boolean demo, Engine engine) {
      PeopleByName people = new PeopleByName(engine.catalogue().principals());
      return new State(revision, demo, engine, Routes.of(engine), people);
    }
  }

  /** {@return the state that the last change left which this instance knows of} */
  public State state() {
    State known = state;
    return known == null ? load() : known;
  }

  /** {@return the engine of {@link #state}} */
  public Engine engine() {
    return state().engine();
  }

  private synchronized State load() {
    State known = state;
    return known == null ? publish(transactions.execute(_ -> readWhole())) : known;
  }

  private State publish(State next) {
    state = next;
    loading.done(next.revision());
    return next;
  }

  /** Reads revision and model in the running transaction; nobody changes them meanwhile. */
  private State readWhole() {
    ModelHead revision = revision(LockModeType.PESSIMISTIC_READ);
    AccessModel model =
        tables.read((kind, of) -> loading.at("reading " + kind.field(), kind.ordinal(), of));
    loading.at("compiling", 1, 1);
    return State.of(revision.number(), revision.demo(), Engine.of(model));
  }

  private ModelHead revision(LockModeType lock) {
    return entities.find(ModelHead.class, 1, lock);
  }

  /** Replaces the model as the server itself. */
  public State replace(AccessModel model, boolean demo, Consumer<EntityManager> alongside) {
    return replace(
        model,
        demo,
        RevisionCause.ofServer("The first model"),
        (session, _) -> alongside.accept(session));
  }

  /**
   * Replaces the model in one transaction; whoever asks sees the old model or the new one.
   *
   * @param model checked: it has no faults
   * @param cause why, and by whom
   * @param alongside more to write in the same transaction; it gets the revision's number
   * @return the new state
   */
  public synchronized State replace(
      AccessModel model,
      boolean demo,
      RevisionCause cause,
      ObjLongConsumer<EntityManager> alongside) {
    AccessModel sorted = model.sorted();
    Engine engine = Engine.of(sorted);
    Catalogue before = state().engine().catalogue();
    long number =
        advance(
            demo,
            revision -> {
              tables.replace(sorted);
              history.note(revision, clock.instant(), cause, sorted, digestOf(engine));
              alongside.accept(entities, revision);
              depart(before, engine.catalogue());
              tell(statuses(before, engine.catalogue()));
              touchWhole(revision);
            });
    return publish(State.of(number, demo, engine));
  }

  /**
   * One revision of a model's past.
   *
   * @param changes what it changed, of the model that the one before left
   */
  public record Earlier(Instant at, RevisionCause cause, List<Change> changes) {
    /** Copies its changes. */
    public Earlier {
      changes = List.copyOf(changes);
    }
  }

  /**
   * Begins with a model that has a past, in one transaction: as if the first model had been brought
   * in then, and changed one revision after the other.
   *
   * @param first the model before all of them, without faults as each after it
   * @param began when that was
   * @param alongside more to write in the same transaction, after each revision; it gets the
   *     revision's number
   * @return the state that the last of them left
   * @throws IllegalArgumentException if one of them does not fit, or leaves a faulty model
   */
  public synchronized State begin(
      AccessModel first,
      Instant began,
      List<Earlier> past,
      boolean demo,
      ObjLongConsumer<EntityManager> alongside) {
    Engine engine = Engine.of(first);
    List<Engine> engines = new ArrayList<>();
    for (Earlier each : past) {
      engine = engine.after(each.changes());
      engines.add(engine);
    }
    AccessModel now = engine.catalogue().model().sorted();
    long number =
        advance(
            demo,
            revision -> {
              tables.replace(now);
              ModelDigest digest = ModelDigest.of(first);
              history.note(
                  revision, began, RevisionCause.ofServer("The first model"), first, digest);
              alongside.accept(entities, revision);
              for (int i = 0; i < past.size(); i++) {
                Earlier each = past.get(i);
                digest = digest.after(each.changes());
                history.note(
                    revision + i + 1,
                    each.at(),
                    each.cause(),
                    each.changes(),
                    engines.get(i),
                    digest);
                alongside.accept(entities, revision + i + 1);
              }
              touchWhole(revision + past.size());
            },
            past.size());
    return publish(State.of(number, demo, Engine.of(now)));
  }

  /**
   * Makes changes in one transaction.
   *
   * @return the new state
   * @throws IllegalArgumentException if they do not fit the newest model, or leave a faulty one;
   *     the message names what is wrong, and nothing has changed
   */
  public State change(List<Change> changes) {
    return change(_ -> changes, RevisionCause.ofServer("Changed by the server"), (_, _) -> {});
  }

  /**
   * Decides on the newest model what to change, and does so in one transaction. Deciding holds no
   * lock and no transaction: it is done again where the model was changed meanwhile, here or in
   * another instance.
   *
   * @param decide what to change; may refuse by throwing; no changes, no revision
   * @param alongside more to write in the same transaction; it gets the state before and the
   *     revision's number
   * @return the new state
   * @throws IllegalArgumentException if the changes do not fit the newest model, or leave a faulty
   *     one; the message names what is wrong, and nothing has changed
   */
  public State change(
      Function<State, List<Change>> decide, RevisionCause cause, ObjLongConsumer<State> alongside) {
    return decided(
        state -> {
          List<Change> changes = decide.apply(state);
          return new Decision(
              changes, changes.isEmpty() ? state.engine() : state.engine().after(changes), cause);
        },
        alongside);
  }

  /**
   * What was decided on a state.
   *
   * @param after the engine of that state after the changes
   * @param cause of the revision
   */
  public record Decision(List<Change> changes, Engine after, RevisionCause cause) {
    /** Copies its changes. */
    public Decision {
      changes = List.copyOf(changes);
    }
  }

  /**
   * The same where the engine after the changes and the cause are found while deciding.
   *
   * @see #change(Function, Cause, ObjLongConsumer)
   */
  public State decided(Function<State, Decision> decide, ObjLongConsumer<State> alongside) {
    for (int attempt = 1; attempt <= ATTEMPTS; attempt++) {
      catchUp();
      State before = state();
      Decision decision = decide.apply(before);
      if (decision.changes().isEmpty()) {
        return before;
      }
      try {
        return write(before, decision, alongside);
      } catch (Overtaken _) {
        // decided on a model that is the newest no more: once more
      }
    }
    throw new IllegalArgumentException(
        "The model was changed again and again while this was decided. Look at it and try again");
  }

  @SuppressWarnings("ReferenceEquality") // a state is itself
  private synchronized State write(
      State before, Decision decision, ObjLongConsumer<State> alongside) {
    if (state() != before) {
      throw new Overtaken();
    }
    List<Change> changes = decision.changes();
    Engine engine = decision.after();
    ModelDigest digest = digestOf(before.engine()).after(changes);
    long number =
        advance(
            before.demo(),
            revision -> {
              if (revision != before.revision() + 1) {
                throw new Overtaken();
              }
              tables.write(changes);
              touch(revision, Touch.by(changes));
              history.note(revision, clock.instant(), decision.cause(), changes, engine, digest);
              alongside.accept(before, revision);
              Catalogue was = before.engine().catalogue();
              depart(was, engine.catalogue());
              tell(statuses(changes));
            });
    digested = new Digested(engine, digest);
    return publish(State.of(number, before.demo(), engine));
  }

  /** The model was changed since this instance decided. */
  private static final class Overtaken extends RuntimeException {
    private static final long serialVersionUID = 1;

    Overtaken() {
      super(null, null, false, false);
    }
  }

  private long advance(boolean demo, Consumer<Long> write) {
    return advance(demo, write, 0);
  }

  /** Goes on by one revision and so many more; the first of them is written. */
  private long advance(boolean demo, Consumer<Long> write, int more) {
    Long number =
        transactions.execute(_ -> {
          ModelHead revision = revision(LockModeType.PESSIMISTIC_WRITE);
          long first = revision.number() + 1;
          for (int i = 0; i <= more; i++) {
            revision.advance(demo, clock.instant());
          }
          entities.flush();
          write.accept(first);
          entities
              .createNativeQuery("delete from model_touch where revision < :old")
              .setParameter("old", revision.number() - KEPT)
              .executeUpdate();
          entities
              .createNativeQuery("select pg_notify(:channel, :revision)", Object.class)
              .setParameter("channel", CHANNEL)
              .setParameter("revision", Long.toString(revision.number()))
              .getResultList();
          return revision.number();
        });
    if (number == null) {
      throw new IllegalStateException("Impossible state: a revision without a number");
    }
    return number;
  }

  /** The digest of a model, made once of all of it, and then followed from change to change. */
  @SuppressWarnings("ReferenceEquality") // an engine is one state of the model
  private synchronized ModelDigest digestOf(Engine engine) {
    Digested known = digested;
    if (known == null || known.engine() != engine) {
      known = new Digested(engine, ModelDigest.of(engine.catalogue().model()));
      digested = known;
    }
    return known.digest();
  }

  /**
   * Holds a model of which the trail has no digest yet to it: what an earlier version left. Meant
   * for the start.
   */
  public synchronized void holdToTrail() {
    catchUp();
    State now = state();
    if (now.revision() > 0) {
      ModelDigest digest = digestOf(now.engine());
      transactions.executeWithoutResult(_ -> history.hold(now.revision(), digest));
    }
  }

  private static List<StatusListener.StatusChange> statuses(List<Change> changes) {
    List<StatusListener.StatusChange> all = new ArrayList<>();
    for (Change change : changes) {
      switch (change) {
        case Change.Added(Principal it) -> all.add(new StatusListener.StatusChange(null, it));
        case Change.Altered(Principal was, Principal is) when was.status() != is.status() ->
            all.add(new StatusListener.StatusChange(was, is));
        default -> {}
      }
    }
    return all;
  }

  private static List<StatusListener.StatusChange> statuses(Catalogue before, Catalogue after) {
    List<StatusListener.StatusChange> all = new ArrayList<>();
    for (Principal was : before.principals().values()) {
      Principal is = after.principals().get(was.key());
      if (is != null && was.status() != is.status()) {
        all.add(new StatusListener.StatusChange(was, is));
      }
    }
    return all;
  }

  private void tell(List<StatusListener.StatusChange> changes) {
    if (!changes.isEmpty()) {
      entities.flush();
      statuses.orderedStream().forEach(it -> it.changed(changes));
    }
  }

  private void depart(Catalogue before, Catalogue after) {
    Set<PrincipalKey> gone = new LinkedHashSet<>();
    for (PrincipalKey key : before.principals().keySet()) {
      if (!after.principals().containsKey(key)) {
        gone.add(key);
      }
    }
    if (!gone.isEmpty()) {
      entities.flush();
      departures.orderedStream().forEach(it -> it.of(gone));
    }
  }

  private void touchWhole(long revision) {
    touch(revision, new String[] {WHOLE}, new String[] {""});
  }

  private void touch(long revision, List<Touch> touches) {
    touch(
        revision,
        touches.stream().map(it -> it.kind().name()).toArray(String[]::new),
        touches.stream().map(Touch::key).toArray(String[]::new));
  }

  /** In one statement: before each, all that was written is looked at for changes. */
  private void touch(long revision, String[] kinds, String[] keys) {
    entities
        .createNativeQuery(
            "insert into model_touch select :revision, kind, key"
                + " from unnest(cast(:kinds as text[]), cast(:keys as text[])) as it(kind, key)")
        .setParameter("revision", revision)
        .setParameter("kinds", kinds)
        .setParameter("keys", keys)
        .executeUpdate();
  }

  /**
   * Takes up what other instances changed: reads again what their revisions touched, the whole
   * model where one replaced it or where this instance is too far behind.
   *
   * @return whether anything was taken up
   */
  public synchronized boolean catchUp() {
    State known = state();
    State next = transactions.execute(_ -> newer(known));
    if (next == null) {
      return false;
    }
    publish(next);
    return true;
  }

  @SuppressWarnings("ReferenceEquality") // an engine is one state of the model
  private @Nullable State newer(State known) {
    ModelHead revision = revision(LockModeType.PESSIMISTIC_READ);
    if (revision.number() == known.revision()) {
      return null;
    }
    @SuppressWarnings("unchecked") // three columns: bigint, text, text
    List<Object[]> rows =
        entities
            .createNativeQuery(
                "select revision, kind, key from model_touch where revision > :known")
            .setParameter("known", known.revision())
            .getResultList();
    boolean whole =
        revision.number() < known.revision()
            || rows.stream().anyMatch(row -> row[1].equals(WHOLE))
            || rows.stream().map(row -> row[0]).distinct().count()
                < revision.number() - known.revision();
    if (whole) {
      return readWhole();
    }
    List<Touch> touches =
        rows.stream()
            .map(row -> new Touch(Kind.valueOf((String) row[1]), (String) row[2]))
            .distinct()
            .toList();
    List<Change> changes = changes(known.engine().catalogue(), touches);
    Engine engine = changes.isEmpty() ? known.engine() : known.engine().after(changes);
    Digested last = digested;
    if (last != null && last.engine() == known.engine()) {
      digested = new Digested(engine, last.digest().after(changes));
    }
    return State.of(revision.number(), revision.demo(), engine);
  }

  /** What makes the model of before hold of these things what the tables hold. */
  private List<Change> changes(Catalogue before, List<Touch> touches) {
    Set<Thing> now = new LinkedHashSet<>(tables.read(touches));
    List<Change> changes = new ArrayList<>();
    Map<Draft.Id, Thing> byId = new HashMap<>();
    now.forEach(it -> byId.put(Draft.Id.of(it), it));
    Set<Thing> found = new LinkedHashSet<>();
    for (Touch touch : touches) {
      for (Thing old : before.find(touch.kind(), touch.key())) {
        Optional<Thing> same = Optional.ofNullable(byId.get(Draft.Id.of(old)));
        same.ifPresent(found::add);
        if (same.isEmpty()) {
          changes.add(new Change.Removed(old));
        } else if (!same.get().equals(old)) {
          changes.add(new Change.Altered(old, same.get()));
        }
      }
    }
    now.stream().filter(it -> !found.contains(it)).forEach(it -> changes.add(new Change.Added(it)));
    return changes;
  }
}
