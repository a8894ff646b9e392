package mandala.server.notice;

import java.util.Locale;
import java.util.Optional;
import java.util.stream.Stream;

/** The kinds of notices; each is declared here and nowhere else. */
public enum NoticeKind {
  DRAFT_WAITS("A draft waits for my approval", Delivery.MAIL),
  DRAFT_APPROVED("My draft was approved", Delivery.MAIL),
  DRAFT_DECLINED("My draft was declined", Delivery.MAIL),
  DRAFT_CLASHED("Someone changed what my draft changes", Delivery.DIGEST),
  DATED_WAITS("A dated change of mine was not applied", Delivery.MAIL),
  DATED_APPLIED("A dated change of mine was applied", Delivery.DIGEST),
  JOB_ENDED("Long work of mine ended", Delivery.HERE),
  ACCESS_ENDED("Access of mine ended", Delivery.DIGEST),
  EXPECTATION_FAILS("An expectation that I can change began to fail", Delivery.MAIL);

  private final String title;
  private final Delivery usual;

  NoticeKind(String title, Delivery usual) {
    this.title = title;
    this.usual = usual;
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

  /** {@return how it comes where nobody chose} */
  public Delivery usual() {
    return usual;
  }
}
