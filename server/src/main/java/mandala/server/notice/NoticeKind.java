package mandala.server.notice;

import java.util.Locale;
import java.util.Optional;
import java.util.stream.Stream;

/** The kinds of notices; each is declared here and nowhere else. */
public enum NoticeKind {
  DRAFT_WAITS(
      "A draft waits for my approval",
      Delivery.MAIL,
      "Ilse Varga asks you to approve a draft “Night guards for the touring show”."),
  DRAFT_APPROVED(
      "My draft was approved",
      Delivery.MAIL,
      "Marten Holloway approved your draft “Night guards for the touring show”. Apply it."),
  DRAFT_DECLINED(
      "My draft was declined",
      Delivery.MAIL,
      "Marten Holloway declined your draft “Night guards for the touring show”: until March only"),
  DRAFT_CLASHED(
      "Someone changed what my draft changes",
      Delivery.DIGEST,
      "Someone changed what your draft “Night guards for the touring show” changes. Choose which"
          + " version to keep."),
  DATED_WAITS(
      "A dated change of mine was not applied",
      Delivery.MAIL,
      "Your draft “Night guards for the touring show” was not applied at its date. Your access"
          + " does not cover this."),
  DATED_APPLIED(
      "A dated change of mine was applied",
      Delivery.DIGEST,
      "Your draft “Night guards for the touring show” was applied at its date."),
  REVIEW_WAITS(
      "Items of a review wait for my decision",
      Delivery.MAIL,
      "9 items wait for your decision in “Quarterly, high and critical”."),
  REVIEW_ASKS(
      "A reviewer asks me about my access",
      Delivery.MAIL,
      "Tomas Brandt asks about your access: Do you still cover for Lotte?"),
  REVIEW_ANSWERED(
      "Somebody answered my question in a review",
      Delivery.DIGEST,
      "Odile Farrow answered your question: No, that ended in spring."),
  REVIEW_RETURNED(
      "A decision of mine can't take effect",
      Delivery.MAIL,
      "2 decisions of yours in “Quarterly, high and critical” can't take effect. Decide again."),
  REVIEW_ENDED(
      "A review round of mine closed, and can be signed",
      Delivery.MAIL,
      "The review round “Quarterly, high and critical” closed. Sign its result."),
  REVIEW_HELD_UP(
      "A review round of mine waits",
      Delivery.MAIL,
      "The review round “Quarterly, high and critical” waits: your access does not cover it."),
  JOB_ENDED("Long work of mine ended", Delivery.HERE, "Trail as CSV: done."),
  ACCESS_ENDED(
      "Access of mine ended", Delivery.DIGEST, "Your assignment of the role Courier ended."),
  RULE_FOUND(
      "A rule of mine that watches people waits, or found services that are not used",
      Delivery.MAIL,
      "The rule “Not seen for 90 days” waits. It would act on 40 at once, and may on 25."),
  PERSONNEL_LIST(
      "A personnel list of mine waits for me",
      Delivery.MAIL,
      "The personnel list “Larkmoor staff”: It would remove 31 of 40 people, more than 5 %."),
  EXPECTATION_FAILS(
      "An expectation that I can change began to fail",
      Delivery.MAIL,
      "The expectation “Only registrars approve loans” began to fail.");

  private final String title;
  private final Delivery usual;
  private final String example;

  NoticeKind(String title, Delivery usual, String example) {
    this.title = title;
    this.usual = usual;
    this.example = example;
  }

  /** How a notice comes; it is always in the application, too. */
  public enum Delivery {
    HERE,
    DIGEST,
    MAIL;

    /** {@return the word for it} */
    public String word() {
      return name().toLowerCase(Locale.ROOT);
    }

    /** {@return the delivery of a word} */
    public static Optional<Delivery> of(String word) {
      return Stream.of(values()).filter(it -> it.word().equals(word)).findFirst();
    }
  }

  /** {@return the word for it}, {@code draft-waits} */
  public String word() {
    return name().toLowerCase(Locale.ROOT).replace('_', '-');
  }

  /** {@return the kind of a word} */
  public static Optional<NoticeKind> of(String word) {
    return Stream.of(values()).filter(it -> it.word().equals(word)).findFirst();
  }

  /** {@return what it is about, as one who gets it reads it} */
  public String title() {
    return title;
  }

  /** {@return what such a notice can say}, for a look at how mail about it reads */
  public String example() {
    return example;
  }

  /** {@return how it comes where nobody chose} */
  public Delivery usual() {
    return usual;
  }
}
