package mandala.server.model;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import jakarta.persistence.EntityManager;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.NoSuchElementException;
import java.util.Optional;
import java.util.OptionalLong;
import java.util.function.BiConsumer;
import java.util.function.BiFunction;
import java.util.stream.Stream;
import mandala.core.change.Change;
import mandala.core.change.Changes;
import mandala.core.compliance.FindingOrigins;
import mandala.core.engine.Engine;
import mandala.core.model.AccessModel;
import mandala.core.model.Assignment;
import mandala.core.model.Bridge;
import mandala.core.model.Catalogue;
import mandala.core.model.Kind;
import mandala.core.model.Thing;
import mandala.core.model.key.PrincipalKey;
import mandala.document.ThingDocument;
import mandala.document.Words;
import mandala.server.audit.AuditEvent;
import mandala.server.audit.Blotting;
import mandala.server.audit.ErasedParts;
import mandala.server.audit.Likeness;
import mandala.server.audit.Trail;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;

/**
 * Past revisions: what each changed, and full copies now and then. A past state is the nearest copy
 * before it with the changes since, or a state that is known with later changes taken back,
 * whichever is nearer. A few past engines are kept. Thread-safe.
 */
@Component
public class History {

  /** A full copy is written after so many revisions. */
  static final int COPY_EVERY = 200;

  private static final int KEPT = 4;

  private final EntityManager entities;
  private final Cache<Past, Engine> kept = Caffeine.newBuilder().maximumSize(KEPT).build();
  private final Trail trail;
  private final ErasedParts erased;

  /** A past revision as it reads since so many erasures. */
  private record Past(long number, long erasures) {}

  History(EntityManager entities, Trail trail, ErasedParts erased) {
    this.trail = trail;
    this.entities = entities;
    this.erased = erased;
  }

  /** Notes a revision that made changes, in the running transaction. */
  void note(
      long number,
      Instant at,
      RevisionCause cause,
      List<Change> changes,
      Engine after,
      ModelDigest digest) {
    keep(new Revision(number, at, cause, changes.size(), changes), digest);
    noteGiven(changes.stream().flatMap(it -> it.things().stream()));
    if (number - lastCopy(number) >= COPY_EVERY) {
      copy(number, after.catalogue().model());
    }
  }

  /** Notes a revision that replaced the whole model, in the running transaction. */
  void note(long number, Instant at, RevisionCause cause, AccessModel model, ModelDigest digest) {
    keep(new Revision(number, at, cause, model.size(), null), digest);
    noteGiven(Stream.concat(model.assignments().stream(), model.bridges().stream()));
    copy(number, model);
  }

  /** Keeps an entry, and in the trail its digest and the model's. */
  private void keep(Revision entry, ModelDigest digest) {
    entities.persist(entry);
    trail.write(
        List.of(AuditEvent.revision(entry.number(), entry.digest(), digest.hex())), entry.at());
  }

  /** Writes the digests of a revision of which the trail has none. */
  void hold(long number, ModelDigest digest) {
    boolean held =
        !entities
            .createNativeQuery(
                "select 1 from trail where act = 'revision' and revision >= :number", Integer.class)
            .setParameter("number", number)
            .getResultList()
            .isEmpty();
    Revision entry = entities.find(Revision.class, number);
    if (!held && entry != null) {
      trail.write(List.of(AuditEvent.revision(number, entry.digest(), digest.hex())));
    }
  }

  private long lastCopy(long number) {
    Number last =
        (Number)
            entities
                .createNativeQuery(
                    "select coalesce(max(number), -1) from model_copy where number <= :number",
                    Long.class)
                .setParameter("number", number)
                .getSingleResult();
    return last.longValue();
  }

  private void copy(long number, AccessModel model) {
    entities
        .createNativeQuery("insert into model_copy values (:number, :document)")
        .setParameter("number", number)
        .setParameter("document", ModelCopy.bytes(model))
        .executeUpdate();
  }

  /**
   * Blots somebody who is no longer in the model out of past revisions and their copies.
   *
   * @return what is other than before
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public List<ErasedParts.Part> blot(Blotting how) {
    List<ErasedParts.Part> parts = new ArrayList<>();
    for (Revision entry : naming(how)) {
      String before = entry.digest();
      entry.blot(how);
      if (!entry.digest().equals(before)) {
        parts.add(new ErasedParts.Part(ErasedParts.Sort.REVISION, entry.number(), entry.digest()));
      }
    }
    for (long number : copies()) {
      String before = ModelCopy.text(document(number));
      String after = ModelCopy.blotted(before, how);
      if (!after.equals(before)) {
        entities
            .createNativeQuery("update model_copy set document = :document where number = :number")
            .setParameter("number", number)
            .setParameter("document", ModelCopy.bytes(after))
            .executeUpdate();
        parts.add(new ErasedParts.Part(ErasedParts.Sort.COPY, number, ModelCopy.digestOf(after)));
      }
    }
    return parts;
  }

  @SuppressWarnings("unchecked") // of the class that the query is given
  private List<Revision> naming(Blotting how) {
    return entities
        .createNativeQuery(
            """
            select * from model_entry where concat_ws(' ', author, title, reason, reference,
                array_to_string(approved_by, ' '), changes)
              ilike any (cast(:likeness as text[])) order by number
            """,
            Revision.class)
        .setParameter("likeness", Likeness.of(how.tokens()))
        .getResultList();
  }

  /** Tells the things of a kind that revisions and copies ever had and that name some key. */
  @Transactional(readOnly = true)
  public void everyPast(String key, BiConsumer<Kind, JsonNode> sink) {
    changesNaming(key).forEach(it -> ThingDocument.rewritten(it, telling(sink)));
    for (long number : copies()) {
      ModelCopy.each(ModelCopy.text(document(number)), telling(sink));
    }
  }

  @SuppressWarnings("unchecked") // of the class that the query is given
  private List<String> changesNaming(String key) {
    return entities
        .createNativeQuery(
            "select changes from model_entry where changes like any"
                + " (cast(:likeness as text[])) order by number",
            String.class)
        .setParameter("likeness", Likeness.of(List.of(key)))
        .getResultList();
  }

  private static BiFunction<Kind, JsonNode, JsonNode> telling(BiConsumer<Kind, JsonNode> sink) {
    return (kind, thing) -> {
      sink.accept(kind, thing);
      return thing;
    };
  }

  @SuppressWarnings("unchecked") // of the class that the query is given
  private List<Long> copies() {
    return entities
        .createNativeQuery("select number from model_copy order by number", Long.class)
        .getResultList();
  }

  /** {@return revisions, the newest first}, those before a number, at most so many */
  @Transactional(readOnly = true)
  public List<Revision> entries(long before, int most) {
    return entities
        .createQuery("from Revision where number < :before order by number desc", Revision.class)
        .setParameter("before", before)
        .setMaxResults(most)
        .getResultList();
  }

  /** {@return a revision} */
  @Transactional(readOnly = true)
  public Optional<Revision> entry(long number) {
    return Optional.ofNullable(entities.find(Revision.class, number));
  }

  /** {@return the revision in which a thing came}, none where that was before the trail */
  @Transactional(readOnly = true)
  public Optional<Long> begun(Kind kind, String key) {
    Number found =
        (Number)
            entities
                .createNativeQuery(
                    "select min(revision) from trail where kind = :kind and thing = :thing"
                        + " and act = 'changed' and before is null",
                    Long.class)
                .setParameter("kind", kind.field())
                .setParameter("thing", key)
                .getSingleResult();
    return Optional.ofNullable(found).map(Number::longValue);
  }

  /** {@return the revision in which somebody who left was marked so}, none where none is known */
  @Transactional(readOnly = true)
  public Optional<Long> leftIn(PrincipalKey key) {
    Number found =
        (Number)
            entities
                .createNativeQuery(
                    "select max(revision) from trail where kind = 'principals' and thing = :thing"
                        + " and act = 'changed' and cast(after as jsonb) ->> 'status' = 'left'"
                        + " and coalesce(cast(before as jsonb) ->> 'status', 'active') <> 'left'",
                    Long.class)
                .setParameter("thing", key.value())
                .getSingleResult();
    return Optional.ofNullable(found).map(Number::longValue);
  }

  /** Remembers the roles and groups of assignments and bridges, for {@link #everGiven}. */
  private void noteGiven(Stream<? extends Thing> things) {
    List<String> references =
        things
            .flatMap(thing ->
                switch (thing) {
                  case Assignment it -> Stream.of(Words.of(it.gives()), Words.of(it.subject()));
                  case Bridge it -> Stream.of(Words.of(it.gives()), "group:" + it.group());
                  default -> Stream.<String>empty();
                })
            .filter(it -> it.startsWith("role:") || it.startsWith("group:"))
            .distinct()
            .sorted() // so that instances that note the same never wait for each other
            .toList();
    if (!references.isEmpty()) {
      entities
          .createNativeQuery(
              "insert into given_once select unnest(cast(:references as text[]))"
                  + " on conflict do nothing")
          .setParameter("references", references.toArray(String[]::new))
          .executeUpdate();
    }
  }

  /**
   * {@return whether an assignment or bridge of any revision gave a role, or gave something to a
   * group}
   */
  @Transactional(readOnly = true)
  public boolean everGiven(Kind kind, String key) {
    return !entities
        .createNativeQuery("select 1 from given_once where reference = :reference", Integer.class)
        .setParameter("reference", (kind == Kind.ROLES ? "role:" : "group:") + key)
        .getResultList()
        .isEmpty();
  }

  /**
   * {@return an engine for the model as a past revision left it}, null where nothing is known of it
   *
   * @param known the present state
   */
  @Transactional(readOnly = true)
  public @Nullable Engine engineAt(long number, LiveModel.State known) {
    if (number == known.revision()) {
      return known.engine();
    }
    Past past = new Past(number, erased.count());
    Engine engine = kept.getIfPresent(past);
    if (engine == null) {
      engine = read(number, known);
      if (engine != null) {
        kept.put(past, engine);
      }
    }
    return engine;
  }

  /** {@return the revision that was in force at an instant}, if there was any */
  @Transactional(readOnly = true)
  public OptionalLong revisionAt(Instant at) {
    Number number =
        (Number)
            entities
                .createNativeQuery(
                    "select coalesce(max(number), -1) from model_entry where at <= :at", Long.class)
                .setParameter("at", at)
                .getSingleResult();
    return number.longValue() < 0 ? OptionalLong.empty() : OptionalLong.of(number.longValue());
  }

  /**
   * {@return the revisions from a state's back, each with the model that it left}: made as they are
   * read, and none before one of which nothing is known
   */
  public Iterator<FindingOrigins.Stretch> newestFirst(LiveModel.State state) {
    return new Iterator<>() {
      private FindingOrigins.@Nullable Stretch last;
      private FindingOrigins.@Nullable Stretch next;

      @Override
      public boolean hasNext() {
        if (next == null) {
          next = last == null ? stretch(state.revision(), state.engine()) : before(last, state);
        }
        return next != null;
      }

      @Override
      public FindingOrigins.Stretch next() {
        if (!hasNext() || next == null) {
          throw new NoSuchElementException("There is no earlier revision");
        }
        FindingOrigins.Stretch it = next;
        last = it;
        next = null;
        return it;
      }
    };
  }

  private FindingOrigins.@Nullable Stretch before(
      FindingOrigins.Stretch later, LiveModel.State state) {
    long number = later.revision() - 1;
    List<Change> changes = entry(later.revision()).map(Revision::changes).orElse(null);
    Engine engine =
        changes == null
            ? engineAt(number, state)
            : later.engine().after(changes.reversed().stream().map(Change::inverse).toList());
    return engine == null ? null : stretch(number, engine);
  }

  private FindingOrigins.@Nullable Stretch stretch(long number, Engine engine) {
    return entry(number)
        .map(it -> new FindingOrigins.Stretch(number, it.at(), engine))
        .orElse(null);
  }

  private @Nullable Engine read(long number, LiveModel.State known) {
    if (number < 1 || number > known.revision()) {
      return null;
    }
    long copy = lastCopy(number);
    long forward = copy < 0 ? Long.MAX_VALUE : number - copy;
    long back = known.revision() - number;
    if (back <= forward) {
      List<Change> inverse = inverse(number, known.revision());
      if (inverse != null) {
        return inverse.isEmpty() ? known.engine() : known.engine().after(inverse);
      }
    }
    if (copy < 0) {
      return null;
    }
    Catalogue model = new Catalogue(copied(copy));
    for (Revision entry : between(copy, number)) {
      List<Change> changes = entry.changes();
      if (changes == null) {
        throw new IllegalStateException("Impossible state: a whole revision without a copy");
      }
      model = Changes.apply(model, changes);
    }
    return Engine.of(model.model());
  }

  /**
   * {@return what leads from one revision to a later one}; empty where a whole model came in
   * between
   *
   * @throws IllegalStateException if there are no such revisions
   */
  @Transactional(readOnly = true)
  public Optional<List<Change>> changes(long after, long to) {
    List<Change> all = new ArrayList<>();
    for (Revision entry : between(after, to)) {
      List<Change> changes = entry.changes();
      if (changes == null) {
        return Optional.empty();
      }
      all.addAll(changes);
    }
    return Optional.of(all);
  }

  /** What leads back to a revision, null where a whole model came in between. */
  private @Nullable List<Change> inverse(long number, long from) {
    List<Change> inverse = new ArrayList<>();
    for (Revision entry : between(number, from).reversed()) {
      List<Change> changes = entry.changes();
      if (changes == null) {
        return null;
      }
      changes.reversed().forEach(change -> inverse.add(change.inverse()));
    }
    return inverse;
  }

  private List<Revision> between(long after, long to) {
    List<Revision> entries =
        entities
            .createQuery(
                "from Revision where number > :after and number <= :to order by number",
                Revision.class)
            .setParameter("after", after)
            .setParameter("to", to)
            .getResultList();
    if (entries.size() != to - after) {
      throw new IllegalStateException(
          "Impossible state: of the revisions after "
              + after
              + " up to "
              + to
              + " only "
              + entries.size()
              + " are there");
    }
    return entries;
  }

  private AccessModel copied(long number) {
    return ModelCopy.read(document(number));
  }

  private byte[] document(long number) {
    return (byte[])
        entities
            .createNativeQuery(
                "select document from model_copy where number = :number", byte[].class)
            .setParameter("number", number)
            .getSingleResult();
  }
}
