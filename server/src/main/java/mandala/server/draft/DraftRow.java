package mandala.server.draft;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Duration;
import java.time.Instant;
import mandala.core.change.Draft;
import mandala.core.change.Rebase;
import mandala.core.model.Catalogue;
import mandala.document.ThingDocument;
import mandala.server.authorization.ReadPolicy;
import org.apache.commons.codec.digest.DigestUtils;
import org.jspecify.annotations.Nullable;

/** A draft as it is kept. */
@Entity
@Table(name = "draft")
class DraftRow {

  /** For how long a discarded draft can be restored. */
  static final Duration RESTORABLE = Duration.ofDays(30);

  /** Where a draft stands. */
  enum State {
    OPEN,
    ASIDE,
    APPLIED,
    DISCARDED;

    String word() {
      return name().toLowerCase(java.util.Locale.ROOT);
    }
  }

  @Id private String id = "";
  private String owner = "";
  private @Nullable String name;
  private @Nullable String reason;
  private @Nullable String reference;
  private String state = State.OPEN.word();
  private long base;
  private String changes = "[]";
  private long version;

  @Column(name = "takes_back")
  private @Nullable Long takesBack;

  @Column(name = "applied_as")
  private @Nullable Long appliedAs;

  @Column(name = "due_at")
  private @Nullable Instant dueAt;

  @Column(name = "due_content")
  private @Nullable String dueContent;

  @Column(name = "due_fault")
  private @Nullable String dueFault;

  @Column(name = "created_at")
  private Instant createdAt = Instant.EPOCH;

  @Column(name = "changed_at")
  private Instant changedAt = Instant.EPOCH;

  protected DraftRow() {}

  DraftRow(String id, String owner, @Nullable String name, long base, Instant now) {
    this.id = id;
    this.owner = owner;
    this.name = name;
    this.base = base;
    this.createdAt = now;
    this.changedAt = now;
  }

  String id() {
    return id;
  }

  String owner() {
    return owner;
  }

  @Nullable String name() {
    return name;
  }

  @Nullable String reason() {
    return reason;
  }

  @Nullable String reference() {
    return reference;
  }

  State state() {
    return State.valueOf(state.toUpperCase(java.util.Locale.ROOT));
  }

  long base() {
    return base;
  }

  long version() {
    return version;
  }

  @Nullable Long takesBack() {
    return takesBack;
  }

  @Nullable Long appliedAs() {
    return appliedAs;
  }

  Instant changedAt() {
    return changedAt;
  }

  /** {@return when it is to be applied by itself}, null where it is not */
  @Nullable Instant dueAt() {
    return dueAt;
  }

  /** {@return the hash of what is to be applied then} */
  @Nullable String dueContent() {
    return dueContent;
  }

  /** {@return why it was not applied by itself}, null where that did not happen */
  @Nullable String dueFault() {
    return dueFault;
  }

  /** Has it applied by itself; null for not any more. */
  void due(@Nullable Instant at, Instant now) {
    dueAt = at;
    dueContent = at == null ? null : content();
    dueFault = null;
    touch(now);
  }

  /** It could not be applied by itself, and waits for its owner. */
  void notApplied(String why, Instant now) {
    dueAt = null;
    dueContent = null;
    dueFault = why;
    touch(now);
  }

  Draft draft() {
    return new Draft(ThingDocument.changes(changes));
  }

  /** {@return the hash of the changes}: what is approved and applied is exactly this */
  String content() {
    return contentOf(changes);
  }

  /** {@return whether a viewer may read all that the draft is about}: then the link is enough */
  boolean isReadBy(ReadPolicy readPolicy, Catalogue live) {
    Draft draft = draft();
    Catalogue after = Rebase.of(draft, live).draft().appliedUnchecked(live);
    return readPolicy.mayReadAnybody()
        && draft.changes().stream()
            .flatMap(change -> change.things().stream())
            .allMatch(thing -> readPolicy.mayRead(thing, live) || readPolicy.mayRead(thing, after));
  }

  static String contentOf(Draft draft) {
    return contentOf(ThingDocument.write(draft.changes()));
  }

  private static String contentOf(String changes) {
    return DigestUtils.sha256Hex(changes);
  }

  boolean isAlive() {
    return state() == State.OPEN || state() == State.ASIDE;
  }

  void put(Draft draft, long itsBase, Instant now) {
    changes = ThingDocument.write(draft.changes());
    base = itsBase;
    if (dueAt != null) {
      notApplied("The draft was changed after its date was set. Set its date again.", now);
    }
    touch(now);
  }

  void takesBack(long revision) {
    takesBack = revision;
  }

  void rename(@Nullable String itsName, Instant now) {
    name = itsName;
    touch(now);
  }

  /** Says why it is made; null leaves either as it is, blank clears it. */
  void explain(@Nullable String itsReason, @Nullable String itsReference, Instant now) {
    reason = itsReason == null ? reason : strippedOrNull(itsReason);
    reference = itsReference == null ? reference : strippedOrNull(itsReference);
    touch(now);
  }

  private static @Nullable String strippedOrNull(String text) {
    return text.isBlank() ? null : text.strip();
  }

  /** {@return whether it was discarded so lately that it can be restored} */
  boolean isRestorable(Instant now) {
    return state() == State.DISCARDED && changedAt.plus(RESTORABLE).isAfter(now);
  }

  void move(State itsState, Instant now) {
    state = itsState.word();
    if (itsState == State.DISCARDED && dueAt != null) {
      notApplied("The draft was discarded. Set its date again.", now);
    }
    touch(now);
  }

  void handTo(String newOwner, Instant now) {
    owner = newOwner;
    state = State.ASIDE.word(); // the new owner may have one open
    if (dueAt != null) {
      notApplied("The draft was handed over. Set its date again.", now);
    }
    touch(now);
  }

  void applied(long revision, Instant now) {
    state = State.APPLIED.word();
    appliedAs = revision;
    touch(now);
  }

  private void touch(Instant now) {
    version++;
    changedAt = now;
  }
}
