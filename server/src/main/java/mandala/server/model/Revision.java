package mandala.server.model;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import mandala.core.change.Change;
import mandala.document.ThingDocument;
import mandala.server.audit.Blotting;
import mandala.server.audit.Canonical;
import org.jspecify.annotations.Nullable;

/** What one revision changed, by whom and why. */
@Entity
@Table(name = "model_entry")
public class Revision {

  @Id private long number;
  private Instant at = Instant.EPOCH;
  private @Nullable String author;
  private String title = "";
  private @Nullable String draft;

  @Column(name = "takes_back")
  private @Nullable Long takesBack;

  private @Nullable String reason;
  private @Nullable String reference;

  @Column(name = "approved_by")
  private @Nullable List<String> approvedBy;

  private int size;
  private @Nullable String changes;

  protected Revision() {}

  Revision(long number, Instant at, RevisionCause cause, int size, @Nullable List<Change> changes) {
    this.number = number;
    this.at = at.truncatedTo(ChronoUnit.MICROS); // as the database keeps it
    this.author = cause.author();
    this.title = cause.title();
    this.draft = cause.draft();
    this.takesBack = cause.takesBack();
    this.reason = cause.reason();
    this.reference = cause.reference();
    this.approvedBy = cause.approvedBy().isEmpty() ? null : cause.approvedBy();
    this.size = size;
    this.changes = changes == null ? null : ThingDocument.write(changes);
  }

  /** {@return the digest of all that is kept of it}, by which the trail holds it */
  String digest() {
    Canonical fields =
        new Canonical()
            .add(number)
            .add(at)
            .add(author)
            .add(title)
            .add(draft)
            .add(takesBack)
            .add((long) size)
            .add(changes);
    if (reason != null || reference != null || approvedBy != null) { // older entries have none
      fields.add(reason).add(reference).add(approvedBy());
    }
    return fields.hex();
  }

  /** Blots somebody out of it; changes that say nothing then are left out. */
  void blot(Blotting how) {
    author = how.key(author);
    title = String.valueOf(how.text(title));
    reason = how.text(reason);
    reference = how.text(reference);
    approvedBy =
        approvedBy == null
            ? null
            : approvedBy.stream().map(it -> String.valueOf(how.key(it))).toList();
    changes = changes == null ? null : ThingDocument.rewritten(changes, how::thing);
  }

  /** {@return the revision's number} */
  public long number() {
    return number;
  }

  /** {@return when it was made} */
  public Instant at() {
    return at;
  }

  /** {@return the key of whoever made it}, null for the server itself */
  public @Nullable String author() {
    return author;
  }

  /** {@return what it is called} */
  public String title() {
    return title;
  }

  /** {@return the draft that was applied}, or null */
  public @Nullable String draft() {
    return draft;
  }

  /** {@return the revision that it takes back}, or null */
  public @Nullable Long takesBack() {
    return takesBack;
  }

  /** {@return why it was made}, or null */
  public @Nullable String reason() {
    return reason;
  }

  /** {@return the ticket or order behind it}, or null */
  public @Nullable String reference() {
    return reference;
  }

  /** {@return the keys of those who approved exactly this} */
  public List<String> approvedBy() {
    return approvedBy == null ? List.of() : List.copyOf(approvedBy);
  }

  /** {@return how many things it changed}; of a whole model, how many there are */
  public int size() {
    return size;
  }

  /** {@return what it changed}, null where it replaced the whole model */
  public @Nullable List<Change> changes() {
    return changes == null ? null : ThingDocument.changes(changes);
  }
}
