package mandala.server.audit;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Something that was done, to be written into the trail. It says all by key and name, so that it
 * outlives what it speaks of.
 *
 * @param act what kind of thing was done
 * @param who the key of whoever did it, null where nobody was signed in
 * @param whoName their name then
 * @param actingFor in whose name, or null
 * @param revision the revision that it made, or null
 * @param kind the kind of the thing concerned, as a document names its array, or null
 * @param thing its key, or null
 * @param name its name then, or null
 * @param accounts the keys of the accounts concerned: who may read the trail of one may read this
 * @param places the keys of resources from the thing upwards
 * @param said what was done, in a sentence
 * @param before the thing before as JSON, or null
 * @param after the thing after as JSON, or null
 * @param address from where, or null
 * @param entryDigest of a revision, the digest of its entry
 * @param modelDigest of a revision, the digest of the model after it
 */
public record AuditEvent(
    Act act,
    @Nullable String who,
    @Nullable String whoName,
    @Nullable String actingFor,
    @Nullable Long revision,
    @Nullable String kind,
    @Nullable String thing,
    @Nullable String name,
    List<String> accounts,
    List<String> places,
    String said,
    @Nullable String before,
    @Nullable String after,
    @Nullable String address,
    @Nullable String entryDigest,
    @Nullable String modelDigest) {

  /** Something of which there are no digests: all but revisions themselves. */
  public AuditEvent(
      Act act,
      @Nullable String who,
      @Nullable String whoName,
      @Nullable String actingFor,
      @Nullable Long revision,
      @Nullable String kind,
      @Nullable String thing,
      @Nullable String name,
      List<String> accounts,
      List<String> places,
      String said,
      @Nullable String before,
      @Nullable String after,
      @Nullable String address) {
    this(
        act, who, whoName, actingFor, revision, kind, thing, name, accounts, places, said, before,
        after, address, null, null);
  }

  /**
   * {@return that a revision was made}: it holds the revision's entry and the model to the trail
   *
   * @param entryDigest of the entry as it is kept
   * @param modelDigest of the model after it
   */
  public static AuditEvent revision(long number, String entryDigest, String modelDigest) {
    return new AuditEvent(
        Act.REVISION,
        null,
        null,
        null,
        number,
        null,
        null,
        null,
        List.of(),
        List.of(),
        "Revision " + number,
        null,
        null,
        null,
        entryDigest,
        modelDigest);
  }

  /**
   * {@return that somebody's personal facts were erased}
   *
   * @param erased the key that replaces theirs
   * @param partsDigest of what was blotted
   */
  public AuditEvent erased(String erased, String partsDigest) {
    return new AuditEvent(
        Act.ERASED,
        who,
        whoName,
        actingFor,
        null,
        "principals",
        erased,
        null,
        accounts,
        places,
        said,
        null,
        null,
        address,
        partsDigest,
        null);
  }

  /** Copies its lists. */
  public AuditEvent {
    accounts = List.copyOf(accounts);
    places = List.copyOf(places);
  }

  /** Kinds of things done. */
  public enum Act {
    SIGNED_IN,
    SIGNED_OUT,
    REFUSED,
    ASKED,
    CHANGED,
    APPLIED,
    SENT,
    APPROVED,
    DECLINED,
    CHECKED,
    IMPORTED,
    REVISION,
    ERASED,
    EXPORTED,
    TOKEN_MADE,
    TOKEN_USED,
    TOKEN_REVOKED;

    /** {@return an act by its word} */
    static Act of(String word) {
      return valueOf(word.toUpperCase(java.util.Locale.ROOT).replace('-', '_'));
    }

    /** {@return the word for it}, {@code signed-in} */
    public String word() {
      return name().toLowerCase(java.util.Locale.ROOT).replace('_', '-');
    }
  }

  /** {@return something done to nothing in particular} */
  public static AuditEvent of(
      Act act,
      @Nullable String who,
      @Nullable String whoName,
      List<String> accounts,
      String said,
      @Nullable String address) {
    return new AuditEvent(
        act, who, whoName, null, null, null, null, null, accounts, List.of(), said, null, null,
        address);
  }

  /** {@return the same, about a thing} */
  public AuditEvent about(
      String itsKind, @Nullable String itsKey, @Nullable String itsName, List<String> itsPlaces) {
    return new AuditEvent(
        act, who, whoName, actingFor, revision, itsKind, itsKey, itsName, accounts, itsPlaces, said,
        before, after, address);
  }

  /** {@return the same, done by a token}: it stands behind the name of its principal */
  public AuditEvent byToken(String token) {
    return new AuditEvent(
        act,
        who,
        (whoName == null ? who : whoName) + ", token “" + token + "”",
        actingFor,
        revision,
        kind,
        thing,
        name,
        accounts,
        places,
        said,
        before,
        after,
        address);
  }

  /** {@return the same, done in another's name, or looked at with their eyes} */
  public AuditEvent inNameOf(String principal) {
    return new AuditEvent(
        act, who, whoName, principal, revision, kind, thing, name, accounts, places, said, before,
        after, address);
  }
}
