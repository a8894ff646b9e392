package mandala.core.compiled.grants;

import mandala.core.model.Subject;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PrincipalKey;

/**
 * The layout of a grant entry: one clause of one assignment or bridge, as three numbers.
 *
 * <ul>
 *   <li><i>span</i>: first position (24 bits) and end (24 bits, exclusive) between which it can
 *       cover anything, and flags (16 bits): all that a search needs to pass a grant entry by;
 *   <li><i>what</i>: compiled clause (upper half; 0 where none is needed) and the number of what is
 *       given;
 *   <li><i>ref</i>: the number of the assignment, or the complement of a bridge's.
 * </ul>
 *
 * <p>A grant entry without flags covers its span as it is, and names its first position (its
 * floor).
 */
public final class GrantEntry {

  /** Gives its allows of class view only. */
  public static final int VIEW = 1;

  /** Has a window, must be switched on, or is a bridge: the thing itself must be asked. */
  public static final int SPECIAL = 1 << 1;

  /** Relative terms: of the principal's account, unit, own or team's. */
  public static final int OWN_ACCOUNT = 1 << 2;

  public static final int OWN_UNIT = 1 << 3;
  public static final int SELF = 1 << 4;
  public static final int TEAM = 1 << 5;
  public static final int RELATIVE = OWN_ACCOUNT | OWN_UNIT | SELF | TEAM;

  /** The compiled clause must be asked: it has several spans, another floor, or one type. */
  static final int MULTI = 1 << 6;

  static final int FLOORED = 1 << 7;
  public static final int TYPED = 1 << 8;
  public static final int ASK_GROUND = MULTI | FLOORED | TYPED;

  /** Seals do not matter. */
  public static final int CROSSES = 1 << 9;

  /** It is a bridge: the principal need not belong to the resource's account. */
  public static final int BRIDGE = 1 << 10;

  /** It must be switched on to allow. */
  public static final int JUST_IN_TIME = 1 << 11;

  private static final int POSITION_BITS = 24;
  private static final int FLAG_BITS = 16;

  /** No more positions than this. */
  static final int MOST_POSITIONS = (1 << POSITION_BITS) - 1;

  /** Kinds of subject, in the upper four bits of a subject's code; below them is its number. */
  public static final int PRINCIPAL = 0;

  public static final int GROUP = 1;
  public static final int ACCOUNT = 2;
  public static final int PATTERN = 3;
  public static final int PUBLIC = 4;
  public static final int SUBJECT_KINDS = 5;
  private static final int NUMBER_BITS = 28;

  private GrantEntry() {}

  public static long span(int start, int end, int flags) {
    return (long) start << (POSITION_BITS + FLAG_BITS) | (long) end << FLAG_BITS | flags;
  }

  public static int start(long span) {
    return (int) (span >>> (POSITION_BITS + FLAG_BITS));
  }

  public static int end(long span) {
    return (int) (span >>> FLAG_BITS) & MOST_POSITIONS;
  }

  public static int flags(long span) {
    return (int) span & ((1 << FLAG_BITS) - 1);
  }

  public static long what(int ground, int given) {
    return (long) ground << 32 | given;
  }

  public static int ground(long what) {
    return (int) (what >>> 32);
  }

  public static int given(long what) {
    return (int) what;
  }

  public static int subject(int kind, int number) {
    return kind << NUMBER_BITS | number;
  }

  public static int kind(int subject) {
    return subject >>> NUMBER_BITS;
  }

  public static int number(int subject) {
    return subject & ((1 << NUMBER_BITS) - 1);
  }

  /** {@return the code of a subject of a checked model} */
  public static int code(Subject subject, mandala.core.model.Catalogue catalogue) {
    return switch (subject) {
      case Subject.OfPrincipal(var _, PrincipalKey key) ->
          subject(PRINCIPAL, catalogue.principals().require(key));
      case Subject.OfGroup(GroupKey key) -> subject(GROUP, catalogue.groups().require(key));
      case Subject.OfAccount(AccountKey key) -> subject(ACCOUNT, catalogue.accounts().require(key));
      case Subject.OfPattern(PatternKey key) -> subject(PATTERN, catalogue.patterns().require(key));
      case Subject.Public it -> subject(PUBLIC, it.ordinal());
    };
  }
}
