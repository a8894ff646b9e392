package mandala.server.draft;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import jakarta.persistence.EntityManager;
import jakarta.persistence.LockModeType;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import mandala.core.authority.SecondApproval;
import mandala.core.change.Draft;
import mandala.core.question.Session;
import mandala.server.model.LiveModel;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/** Keeps drafts, and judges them; judgements of the same content and model are remembered. */
@Service
class Drafts {

  /** How many drafts of one person may be alive. */
  static final int MOST_ALIVE = 50;

  /** How many changes a draft may have. */
  static final int MOST_CHANGES = 10_000;

  private static final int ATTEMPTS = 20;

  private final EntityManager entities;
  private final Clock clock;
  private final ApprovalPolicy policy;
  private volatile @Nullable Second second;
  private final TransactionTemplate transactions;

  /**
   * By {@link DraftReview#name}: engines share what they have in common, so that some may be kept.
   */
  private final Cache<String, DraftReview> review = Caffeine.newBuilder().maximumSize(64).build();

  Drafts(
      EntityManager entities,
      Clock clock,
      ApprovalPolicy policy,
      PlatformTransactionManager transactions) {
    this.entities = entities;
    this.transactions = new TransactionTemplate(transactions);
    this.clock = clock;
    this.policy = policy;
  }

  private Instant now() {
    return clock.instant();
  }

  @Transactional(readOnly = true)
  public Optional<DraftRow> open(String owner) {
    return entities
        .createQuery("from DraftRow where owner = :owner and state = 'open'", DraftRow.class)
        .setParameter("owner", owner)
        .getResultStream()
        .findFirst();
  }

  @Transactional(readOnly = true)
  public Optional<DraftRow> find(String id) {
    return Optional.ofNullable(entities.find(DraftRow.class, id));
  }

  /** {@return somebody's drafts that are alive, and a few that are done, the newest first} */
  @Transactional(readOnly = true)
  public List<DraftRow> of(String owner) {
    return entities
        .createQuery(
            "from DraftRow where owner = :owner and state <> 'discarded'"
                + " order by case when state = 'open' then 0 when state = 'aside' then 1 else 2"
                + " end, changedAt desc",
            DraftRow.class)
        .setParameter("owner", owner)
        .setMaxResults(50)
        .getResultList();
  }

  /** {@return drafts of others that are alive, not empty and not written by the viewer too} */
  @Transactional(readOnly = true)
  @SuppressWarnings("unchecked") // rows of drafts
  public List<DraftRow> ofOthers(String viewer) {
    return entities
        .createNativeQuery(
            """
            select draft.* from draft
            where owner <> :viewer and state in ('open', 'aside') and changes <> '[]'
              and not exists (select 1 from draft_author it
                              where it.draft = draft.id and it.author = :viewer)
            order by changed_at desc
            """,
            DraftRow.class)
        .setParameter("viewer", viewer)
        .setMaxResults(200)
        .getResultList();
  }

  /** Begins a draft; one that was open is set aside. */
  @Transactional
  public DraftRow begin(String owner, @Nullable String name, long base, Draft draft) {
    takeTurn(owner);
    requireRoom(draft);
    setAside(owner);
    requireFew(owner);
    DraftRow row =
        new DraftRow(EditReader.random() + EditReader.random(), owner, name, base, now());
    row.put(draft, base, now());
    entities.persist(row);
    entities.flush();
    if (!draft.isEmpty()) {
      wrote(row.id(), owner);
    }
    return row;
  }

  /** Keeps a draft that nobody writes in: whichever its owner has open stays open. */
  @Transactional
  public DraftRow keepAside(
      String owner, String name, long base, Draft draft, String reason, String reference) {
    takeTurn(owner);
    requireRoom(draft);
    requireFew(owner);
    DraftRow row =
        new DraftRow(EditReader.random() + EditReader.random(), owner, name, base, now());
    row.put(draft, base, now());
    row.explain(reason, reference, now());
    row.move(DraftRow.State.ASIDE, now());
    entities.persist(row);
    entities.flush();
    wrote(row.id(), owner);
    return row;
  }

  /**
   * Waits until no other transaction opens a draft of this owner: each has at most one open, and
   * the one that comes second sees what the first left. A turn is taken before any row is locked;
   * the other order lets two transactions wait for each other.
   */
  private void takeTurn(String owner) {
    entities
        .createNativeQuery("select pg_advisory_xact_lock(hashtext(:owner))", Object.class)
        .setParameter("owner", "draft of " + owner)
        .getResultList();
  }

  /** {@return how many drafts of somebody are neither applied nor discarded} */
  @Transactional(readOnly = true)
  public long alive(String owner) {
    return entities
        .createQuery(
            "select count(*) from DraftRow where owner = :owner and state in ('open', 'aside')",
            Long.class)
        .setParameter("owner", owner)
        .getSingleResult();
  }

  private void requireFew(String owner) {
    if (alive(owner) >= MOST_ALIVE) {
      throw Problem.conflict(
          "Too many drafts",
          "A person has at most " + MOST_ALIVE + ". Apply or discard one of them first.");
    }
  }

  private void setAside(String owner) {
    open(owner)
        .ifPresent(row -> {
          row = locked(row.id());
          if (row.draft().isEmpty() && row.name() == null) {
            row.move(DraftRow.State.DISCARDED, now());
          } else {
            row.move(DraftRow.State.ASIDE, now());
          }
          entities.flush();
        });
  }

  /** {@return that there is no such draft, or none that the viewer may read: both sound alike} */
  static Problem noSuchDraft() {
    return Problem.notFound(
        "This draft does not exist, or you can't see it. Choose one from the list of drafts.");
  }

  private DraftRow locked(String id) {
    DraftRow row = entities.find(DraftRow.class, id, LockModeType.PESSIMISTIC_WRITE);
    if (row == null) {
      throw noSuchDraft();
    }
    entities.refresh(row);
    return row;
  }

  private DraftRow ownAndAlive(String id, String owner) {
    DraftRow row = locked(id);
    if (!row.owner().equals(owner)) {
      throw Problem.forbidden("Only its owner changes a draft. Ask them to hand it over.");
    }
    if (!row.isAlive()) {
      throw Problem.conflict(
          "The draft is " + row.state().word(),
          "It can no longer be changed. Start a new draft, or revert its revision.");
    }
    return row;
  }

  /**
   * Changes what is in a draft. What it becomes is computed outside of any transaction, so that no
   * connection waits for it, and again where the draft was changed meanwhile.
   */
  public DraftRow change(String id, String owner, long base, UnaryOperator<Draft> how) {
    return changed(
        owner,
        base,
        how,
        () -> Objects.requireNonNull(transactions.execute(_ -> ownAndAlive(id, owner))));
  }

  /** Changes the open draft in the same way; it is begun where there is none. */
  public DraftRow changeOpen(String owner, long base, UnaryOperator<Draft> how) {
    return changed(owner, base, how, () -> transactions.execute(_ -> open(owner).orElse(null)));
  }

  private DraftRow changed(
      String owner, long base, UnaryOperator<Draft> how, Supplier<@Nullable DraftRow> find) {
    for (int attempt = 1; attempt <= ATTEMPTS; attempt++) {
      DraftRow seen = find.get();
      Draft next = how.apply(seen == null ? Draft.EMPTY : seen.draft());
      requireRoom(next);
      DraftRow row = transactions.execute(_ -> put(owner, seen, next, base));
      if (row != null) {
        return row;
      }
    }
    throw Problem.conflict(
        "The draft is being changed from elsewhere",
        "Nothing of this was put into it. Look at the draft and try again.");
  }

  private static void requireRoom(Draft draft) {
    if (draft.changes().size() > MOST_CHANGES) {
      throw Problem.conflict(
          "The draft is too large",
          "It would have "
              + draft.changes().size()
              + " changes; a draft has at most "
              + MOST_CHANGES
              + ". Apply this one first, or begin another.");
    }
  }

  /** Keeps what a draft becomes; null where it is not as it was seen. */
  private @Nullable DraftRow put(String owner, @Nullable DraftRow seen, Draft next, long base) {
    takeTurn(owner);
    DraftRow row;
    if (seen == null) {
      if (open(owner).isPresent()) {
        return null;
      }
      row = begin(owner, null, base, Draft.EMPTY);
    } else {
      row = locked(seen.id());
      if (row.version() != seen.version()) {
        return null;
      }
    }
    row.put(next, base, now());
    wrote(row.id(), owner);
    return row;
  }

  @Transactional
  public DraftRow rename(String id, String owner, @Nullable String name) {
    DraftRow row = ownAndAlive(id, owner);
    row.rename(name == null || name.isBlank() ? null : name.strip(), now());
    return row;
  }

  /** Says why a draft is made; null leaves either as it is, blank clears it. */
  @Transactional
  public DraftRow explain(
      String id, String owner, @Nullable String reason, @Nullable String reference) {
    DraftRow row = ownAndAlive(id, owner);
    row.explain(reason, reference, now());
    return row;
  }

  /** Opens a discarded draft again, without making it the active one; the turn is the owner's. */
  private void restore(String id, String owner) {
    DraftRow row = locked(id);
    if (row.owner().equals(owner) && row.isRestorable(now())) {
      requireFew(owner);
      row.move(DraftRow.State.ASIDE, now());
      entities.flush();
    }
  }

  /** {@return somebody's discarded drafts that can be restored, the newest first} */
  @Transactional(readOnly = true)
  public List<DraftRow> discarded(String owner) {
    return entities
        .createQuery(
            "from DraftRow where owner = :owner and state = 'discarded' and changes <> '[]'"
                + " and changedAt > :since order by changedAt desc",
            DraftRow.class)
        .setParameter("owner", owner)
        .setParameter("since", now().minus(DraftRow.RESTORABLE))
        .setMaxResults(20)
        .getResultList();
  }

  /** Opens, sets aside or discards a draft; one discarded lately is restored by the first two. */
  @Transactional
  public DraftRow move(String id, String owner, DraftRow.State state) {
    takeTurn(owner);
    if (state != DraftRow.State.DISCARDED) {
      restore(id, owner);
    }
    if (state == DraftRow.State.OPEN) {
      if (open(owner).filter(row -> row.id().equals(id)).isPresent()) {
        return locked(id);
      }
      setAside(owner);
    }
    DraftRow row = ownAndAlive(id, owner);
    row.move(state, now());
    return row;
  }

  @Transactional
  public DraftRow handOver(String id, String owner, String to) {
    Stream.of(owner, to).distinct().sorted().forEach(this::takeTurn);
    DraftRow row = ownAndAlive(id, owner);
    requireFew(to);
    row.handTo(to, now());
    return row;
  }

  @Transactional
  public DraftRow takeBack(String owner, String name, long revision, long base, Draft draft) {
    DraftRow row = begin(owner, name, base, draft);
    row.takesBack(revision);
    return row;
  }

  /** Says in the running transaction that a draft was applied; false where it was changed since. */
  boolean applied(String id, long version, long revision) {
    DraftRow row = locked(id);
    if (!row.isAlive() || row.version() != version) {
      return false;
    }
    row.applied(revision, now());
    return true;
  }

  /**
   * Has a draft applied by itself at an instant; null for not any more.
   *
   * @throws Problem if it is not alive, or its content is not the same any more
   */
  @Transactional
  public DraftRow due(String id, String content, @Nullable Instant at) {
    DraftRow row = locked(id);
    if (!row.isAlive() || !row.content().equals(content)) {
      throw Problem.conflict(
          "The draft was changed meanwhile", "Look at it as it is now, and set its date then.");
    }
    row.due(at, now());
    return row;
  }

  /** A draft could not be applied by itself, and waits for its owner. */
  @Transactional
  public void notApplied(String id, String why) {
    DraftRow row = locked(id);
    if (row.isAlive()) {
      row.notApplied(why, now());
    }
  }

  /** {@return the drafts that are alive}, of everybody */
  @Transactional(readOnly = true)
  public List<DraftRow> alive() {
    return entities
        .createQuery(
            "from DraftRow where state in ('open', 'aside') and changes <> '[]' order by id",
            DraftRow.class)
        .getResultList();
  }

  private void wrote(String id, String author) {
    entities
        .createNativeQuery("insert into draft_author values (:id, :who) on conflict do nothing")
        .setParameter("id", id)
        .setParameter("who", author)
        .executeUpdate();
  }

  /**
   * {@return who ever wrote or changed a draft's content}, by key: none of them approves it,
   * whoever owns it now (section 11)
   */
  @Transactional(readOnly = true)
  @SuppressWarnings("unchecked") // one column: text
  public Set<String> authors(String id) {
    return Set.copyOf(
        entities
            .createNativeQuery("select author from draft_author where draft = :id", String.class)
            .setParameter("id", id)
            .getResultList());
  }

  // ---- what is said of drafts -------------------------------------------------------------------

  /** A remark in the discussion of a draft. */
  record Comment(String author, String said, Instant at) {}

  /** An approval, of this content. */
  record Approval(String approver, String content, Instant at) {}

  @Transactional
  public void comment(String id, String author, String said) {
    entities
        .createNativeQuery(
            "insert into draft_comment (draft, author, said, at) values (:id, :who, :said, :at)")
        .setParameter("id", id)
        .setParameter("who", author)
        .setParameter("said", said.strip())
        .setParameter("at", now())
        .executeUpdate();
  }

  @Transactional(readOnly = true)
  public List<Comment> comments(String id) {
    return rows("select author, said, at from draft_comment where draft = :id order by id", id)
        .stream()
        .map(row -> new Comment((String) row[0], (String) row[1], (Instant) row[2]))
        .toList();
  }

  @SuppressWarnings("unchecked") // three columns: text, text, timestamp
  private List<Object[]> rows(String sql, String id) {
    return entities.createNativeQuery(sql).setParameter("id", id).getResultList();
  }

  @Transactional
  public void approve(String id, String approver, String content) {
    withdraw(id, approver);
    entities
        .createNativeQuery("insert into draft_approval values (:id, :who, :content, :at)")
        .setParameter("id", id)
        .setParameter("who", approver)
        .setParameter("content", content)
        .setParameter("at", now())
        .executeUpdate();
  }

  @Transactional
  public void withdraw(String id, String approver) {
    entities
        .createNativeQuery("delete from draft_approval where draft = :id and approver = :who")
        .setParameter("id", id)
        .setParameter("who", approver)
        .executeUpdate();
  }

  @Transactional(readOnly = true)
  public List<Approval> approvals(String id) {
    return rows(
            "select approver, content, at from draft_approval where draft = :id order by at", id)
        .stream()
        .map(row -> new Approval((String) row[0], (String) row[1], (Instant) row[2]))
        .toList();
  }

  private record Second(LiveModel.State state, SecondApproval judge) {}

  @SuppressWarnings("ReferenceEquality") // a state is itself
  private SecondApproval second(LiveModel.State state) {
    Second known = second;
    if (known == null || known.state() != state) {
      known = new Second(state, new SecondApproval(state.engine()));
      second = known;
    }
    return known.judge();
  }

  /**
   * {@return the judgement of a draft for its author}: one that was made before where it is the
   * same now, for no window has begun or ended since
   */
  @SuppressWarnings("ReferenceEquality") // a state is itself
  DraftReview review(LiveModel.State state, DraftRow row, Session author) {
    Map<String, Integer> atMost = policy.people();
    String name = DraftReview.name(state, row, author, atMost);
    DraftReview known = review.getIfPresent(name);
    if (known == null
        || known.state() != state
        || author.at().isBefore(known.author().at())
        || !author.at().isBefore(known.sameUntil())) {
      known = new DraftReview(state, row, author, second(state), atMost);
      review.put(name, known);
    }
    return known;
  }

  /** {@return the name of the judgement of a draft}, which need not be made for that */
  String nameOfJudgement(LiveModel.State state, DraftRow row, Session author) {
    return DraftReview.name(state, row, author, policy.people());
  }

  /** {@return what root accounts ask for, by key} */
  Map<String, ApprovalPolicy.Rule> policy() {
    return policy.rules();
  }
}
