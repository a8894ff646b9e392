package mandala.server.draft;

import jakarta.persistence.EntityManager;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import mandala.server.platform.Problem;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Keeps who is asked to approve a draft, when they were reminded, and who declined it and why. */
@Service
class ApprovalRequests {

  /** How many people one draft may be sent to. */
  static final int MOST = 20;

  /** One person is reminded of one draft at most this often. */
  static final Duration BETWEEN_REMINDERS = Duration.ofHours(1);

  private final EntityManager entities;
  private final Clock clock;

  ApprovalRequests(EntityManager entities, Clock clock) {
    this.entities = entities;
    this.clock = clock;
  }

  /**
   * A request to one person.
   *
   * @param declined what they declined and why, null where they did not
   */
  record Request(
      String approver, Instant askedAt, @Nullable Instant remindedAt, @Nullable Declined declined) {

    boolean isDeclined(String content) {
      return declined != null && declined.content().equals(content);
    }
  }

  /** That somebody declined exact content. */
  record Declined(String content, String because, Instant at) {}

  /** {@return the requests of a draft, the oldest first} */
  @Transactional(readOnly = true)
  @SuppressWarnings("unchecked") // columns: text, two timestamps, text, text, timestamp
  public List<Request> of(String draft) {
    List<Object[]> rows =
        entities
            .createNativeQuery(
                "select approver, asked_at, reminded_at, declined_content, declined_because,"
                    + " declined_at from draft_request where draft = :draft"
                    + " order by asked_at, approver")
            .setParameter("draft", draft)
            .getResultList();
    return rows.stream()
        .map(row ->
            new Request(
                (String) row[0],
                (Instant) row[1],
                (Instant) row[2],
                row[3] == null
                    ? null
                    : new Declined((String) row[3], (String) row[4], (Instant) row[5])))
        .toList();
  }

  /** {@return the drafts that somebody is asked to approve and that are alive, by id} */
  @Transactional(readOnly = true)
  @SuppressWarnings("unchecked") // one column: text
  public Set<String> askedOf(String approver) {
    List<String> ids =
        entities
            .createNativeQuery(
                "select draft from draft_request join draft on draft.id = draft_request.draft"
                    + " where approver = :who and state in ('open', 'aside')",
                String.class)
            .setParameter("who", approver)
            .getResultList();
    return ids.stream().collect(Collectors.toUnmodifiableSet());
  }

  /** Asks people to approve; of those asked before, what they declined is cleared. */
  @Transactional
  public void ask(String draft, Collection<String> approvers) {
    for (String approver : approvers) {
      entities
          .createNativeQuery(
              """
              insert into draft_request (draft, approver, asked_at) values (:draft, :who, :now)
              on conflict (draft, approver) do update
              set asked_at = :now, reminded_at = null, declined_content = null,
                  declined_because = null, declined_at = null
              """)
          .setParameter("draft", draft)
          .setParameter("who", approver)
          .setParameter("now", clock.instant())
          .executeUpdate();
    }
    if (of(draft).size() > MOST) {
      throw Problem.conflict(
          "The draft is sent to too many people",
          "It can wait for at most "
              + MOST
              + " at a time. Choose fewer people, or withdraw a request first.");
    }
  }

  /** Takes a request back. */
  @Transactional
  public void withdraw(String draft, String approver) {
    entities
        .createNativeQuery("delete from draft_request where draft = :draft and approver = :who")
        .setParameter("draft", draft)
        .setParameter("who", approver)
        .executeUpdate();
  }

  /**
   * Reminds somebody who was asked.
   *
   * @throws Problem if they were not asked, or asked or reminded less than an hour ago
   */
  @Transactional
  public void remind(String draft, String approver) {
    Instant now = clock.instant();
    int reminded =
        entities
            .createNativeQuery(
                "update draft_request set reminded_at = :now where draft = :draft"
                    + " and approver = :who and coalesce(reminded_at, asked_at) <= :before")
            .setParameter("now", now)
            .setParameter("draft", draft)
            .setParameter("who", approver)
            .setParameter("before", now.minus(BETWEEN_REMINDERS))
            .executeUpdate();
    if (reminded == 0) {
      boolean asked = of(draft).stream().anyMatch(it -> it.approver().equals(approver));
      throw asked
          ? Problem.conflict(
              "They were asked less than an hour ago",
              "One person can be reminded once an hour. Try again later, or ask somebody else.")
          : Problem.notFound("They were not asked to approve this draft. Send it to them first.");
    }
  }

  /** Keeps that somebody, asked or not, declined exact content, and why. */
  @Transactional
  public void decline(String draft, String approver, String content, String because) {
    entities
        .createNativeQuery(
            """
            insert into draft_request
              (draft, approver, asked_at, declined_content, declined_because, declined_at)
            values (:draft, :who, :now, :content, :because, :now)
            on conflict (draft, approver) do update
            set declined_content = :content, declined_because = :because, declined_at = :now
            """)
        .setParameter("draft", draft)
        .setParameter("who", approver)
        .setParameter("now", clock.instant())
        .setParameter("content", content)
        .setParameter("because", Objects.requireNonNull(because).strip())
        .executeUpdate();
  }

  /** Clears what somebody declined, for they have approved since. */
  @Transactional
  public void settle(String draft, String approver) {
    entities
        .createNativeQuery(
            "update draft_request set declined_content = null, declined_because = null,"
                + " declined_at = null where draft = :draft and approver = :who")
        .setParameter("draft", draft)
        .setParameter("who", approver)
        .executeUpdate();
  }
}
