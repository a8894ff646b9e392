package mandala.server.draft;

import jakarta.persistence.EntityManager;
import jakarta.persistence.LockModeType;
import java.time.Clock;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.UnaryOperator;
import mandala.core.authority.SecondPerson;
import mandala.core.change.Draft;
import mandala.core.engine.Session;
import mandala.server.model.LiveModel;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Keeps drafts, and judges them; judgements of the same content and model are remembered. */
@Service
class Drafts {

  private static final int REMEMBERED = 64;

  private final EntityManager entities;
  private final Clock clock;
  private final ApprovalPolicy policy;
  private volatile @Nullable Second second;
  private final Map<String, Judged> judged = new LinkedHashMap<>(64, 0.75f, true);

  Drafts(EntityManager entities, Clock clock, ApprovalPolicy policy) {
    this.entities = entities;
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

  /** {@return drafts of others that are alive, the newest first} */
  @Transactional(readOnly = true)
  public List<DraftRow> ofOthers(String viewer) {
    return entities
        .createQuery(
            "from DraftRow where owner <> :viewer and state in ('open', 'aside')"
                + " order by changedAt desc",
            DraftRow.class)
        .setParameter("viewer", viewer)
        .setMaxResults(200)
        .getResultList();
  }

  /** Begins a draft; one that was open is set aside. */
  @Transactional
  public DraftRow begin(String owner, @Nullable String name, long base, Draft draft) {
    setAside(owner);
    DraftRow row = new DraftRow(Edits.random() + Edits.random(), owner, name, base, now());
    row.put(draft, base, now());
    entities.persist(row);
    entities.flush();
    if (!draft.isEmpty()) {
      wrote(row.id(), owner);
    }
    return row;
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

  private DraftRow locked(String id) {
    DraftRow row = entities.find(DraftRow.class, id, LockModeType.PESSIMISTIC_WRITE);
    if (row == null) {
      throw Problem.notFound("There is no such draft. Look at the list of drafts.");
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
          "It does not change any more. Begin a new draft, or take its revision back.");
    }
    return row;
  }

  /** Changes what is in a draft; edits of the same draft wait for each other. */
  @Transactional
  public DraftRow change(String id, String owner, long base, UnaryOperator<Draft> how) {
    DraftRow row = ownAndAlive(id, owner);
    row.put(how.apply(row.draft()), base, now());
    wrote(id, owner);
    return row;
  }

  /** Changes the open draft, which is begun where there is none. */
  @Transactional
  public DraftRow changeOpen(String owner, long base, UnaryOperator<Draft> how) {
    entities
        .createNativeQuery("select pg_advisory_xact_lock(hashtext(:owner))", Object.class)
        .setParameter("owner", "draft of " + owner)
        .getResultList();
    DraftRow row =
        open(owner)
            .map(it -> locked(it.id()))
            .filter(it -> it.state() == DraftRow.State.OPEN) // else it was applied just now
            .orElseGet(() -> begin(owner, null, base, Draft.EMPTY));
    row.put(how.apply(row.draft()), base, now());
    wrote(row.id(), owner);
    return row;
  }

  @Transactional
  public DraftRow rename(String id, String owner, @Nullable String name) {
    DraftRow row = ownAndAlive(id, owner);
    row.rename(name == null || name.isBlank() ? null : name.strip(), now());
    return row;
  }

  @Transactional
  public DraftRow move(String id, String owner, DraftRow.State state) {
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
    DraftRow row = ownAndAlive(id, owner);
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

  private record Second(LiveModel.State state, SecondPerson judge) {}

  @SuppressWarnings("ReferenceEquality") // a state is itself
  private SecondPerson second(LiveModel.State state) {
    Second known = second;
    if (known == null || known.state() != state) {
      known = new Second(state, new SecondPerson(state.engine()));
      second = known;
    }
    return known.judge();
  }

  /** {@return the judgement of a draft for its author at this very instant} */
  Judged judgedNow(LiveModel.State state, DraftRow row, Session author) {
    return judge(state, row, author, policy.people());
  }

  private Judged judge(
      LiveModel.State state, DraftRow row, Session author, Map<String, Integer> atMost) {
    return new Judged(state, row.draft(), author, second(state), atMost);
  }

  /** {@return the judgement of a draft for its author}, at most a minute old */
  @SuppressWarnings("ReferenceEquality") // a state is itself
  Judged judged(LiveModel.State state, DraftRow row, Session author) {
    Map<String, Integer> atMost = policy.people();
    String what =
        String.join(
            " ",
            row.content(),
            String.valueOf(atMost),
            Long.toString(state.revision()),
            author.principal().value(),
            Boolean.toString(author.mfa()),
            Long.toString(author.at().getEpochSecond() / 60));
    synchronized (judged) {
      Judged known = judged.get(what);
      if (known != null && known.state() == state) {
        return known;
      }
    }
    Judged fresh = judge(state, row, author, atMost);
    synchronized (judged) {
      judged.put(what, fresh);
      if (judged.size() > REMEMBERED) {
        judged.remove(judged.keySet().iterator().next());
      }
    }
    return fresh;
  }
}
