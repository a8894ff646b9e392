package mandala.core.model;

import java.time.Instant;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.UnitKey;
import org.jspecify.annotations.Nullable;

/**
 * Who can act: a person or a service.
 *
 * @param email no two have the same, compared without regard to case (section 10)
 * @param sponsor a person who answers for a service (section 10), or null
 */
public record Principal(
    PrincipalKey key,
    About about,
    Kind kind,
    AccountKey account,
    @Nullable UnitKey unit,
    @Nullable PrincipalKey manager,
    Status status,
    Window window,
    boolean mfa,
    Map<String, String> attributes,
    @Nullable PatternKey pattern,
    List<Reach> reach,
    @Nullable String email,
    @Nullable Instant lastSeen,
    @Nullable PrincipalKey sponsor)
    implements Thing {

  /** {@return the same, active} */
  public Principal activated() {
    return new Principal(
        key,
        about,
        kind,
        account,
        unit,
        manager,
        Status.ACTIVE,
        window,
        mfa,
        attributes,
        pattern,
        reach,
        email,
        lastSeen,
        sponsor);
  }

  /** Copies and orders the attributes by name. */
  public Principal {
    attributes = Collections.unmodifiableMap(new TreeMap<>(attributes));
    reach = List.copyOf(reach);
  }

  /** A human being, or a program. */
  public enum Kind {
    PERSON,
    SERVICE
  }

  /** Where a principal stands; only an active one has access. */
  public enum Status {
    INVITED,
    ACTIVE,
    SUSPENDED,
    LEFT
  }

  /** Beyond the own unit: this unit and below, in full or for permissions of class view only. */
  public record Reach(UnitKey unit, Level level) {}

  /** How far a reach goes. */
  public enum Level {
    FULL,
    VIEW
  }

  /** {@return whether a session of it can have a second factor} (section 5) */
  public boolean enrolled() {
    return kind == Kind.PERSON && mfa;
  }

  /** {@return where rights over it are judged}: its unit, else its home account (section 11) */
  public ResourceKey place() {
    return unit == null ? ResourceKey.of(account) : ResourceKey.of(unit);
  }
}
