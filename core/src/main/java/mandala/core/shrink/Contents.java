package mandala.core.shrink;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import mandala.core.compiled.rights.EffectiveRights;
import mandala.core.compiled.rights.EffectiveRightsReader;
import mandala.core.compiled.rights.Rights;
import mandala.core.model.About;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Gives;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.Role;
import mandala.core.model.Supplied;
import mandala.core.model.Thing;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.RoleKey;
import mandala.core.rule.PermissionClosure;
import org.jspecify.annotations.Nullable;

/**
 * What things of a model give, and things that give less: one that exists where there is one, else
 * a set or a role made for it.
 */
public final class Contents {

  private final Catalogue catalogue;
  private final Rights rights;
  private final EffectiveRightsReader reader;
  private final Map<EffectiveRightsReader.Name, Content> known = new HashMap<>();

  /** What exists and denies nothing, by what it gives; the simplest first. */
  private final Map<Content, Gives> existing = new LinkedHashMap<>();

  /** What was made, by what it gives and whose it is. */
  private final Map<Made, Gives> made = new HashMap<>();

  private final Map<Gives, List<Thing>> parts = new HashMap<>();
  private final Set<String> taken = new LinkedHashSet<>();

  private record Made(Content content, @Nullable AccountKey account) {}

  /**
   * What is given, closed over what permissions imply.
   *
   * @param free what is allowed without a second factor
   * @param factor what is allowed with one only
   * @param deny what is denied
   */
  public record Content(
      Set<PermissionKey> free, Set<PermissionKey> factor, Set<PermissionKey> deny) {
    /** Copies its sets. */
    public Content {
      free = Set.copyOf(free);
      factor = Set.copyOf(factor);
      deny = Set.copyOf(deny);
    }

    /** {@return whether it allows a permission, with or without a second factor} */
    public boolean allows(PermissionKey key) {
      return free.contains(key) || factor.contains(key);
    }

    /** {@return how many permissions it allows} */
    public int size() {
      return free.size() + factor.size();
    }
  }

  /** Reads what the things of a model give. */
  public Contents(Catalogue catalogue) {
    this.catalogue = catalogue;
    rights = new Rights(catalogue);
    reader = new EffectiveRightsReader(catalogue, rights);
    for (Permission it : catalogue.permissions().values()) {
      put(new Gives.OfPermission(it.key()));
    }
    for (PermissionSet it : catalogue.sets().values()) {
      taken.add(it.key().value());
      put(new Gives.OfSet(it.key()));
    }
    for (Role it : catalogue.roles().values()) {
      taken.add(it.key().value());
      boolean free = it.prerequisites().isEmpty() && it.maxHolders() == null;
      if (free && !it.retired()) {
        put(new Gives.OfRole(it.key()));
      }
    }
  }

  private void put(Gives gives) {
    Content content = of(gives, false);
    if (content.deny().isEmpty() && content.size() > 0) {
      existing.putIfAbsent(content, gives);
    }
  }

  /** {@return what an assignment gives} */
  public Content of(Assignment it) {
    return of(it.gives(), it.effect() == Assignment.Effect.DENY);
  }

  /**
   * {@return what a thing gives}
   *
   * @param deny whether it is denied rather than given
   */
  public Content of(Gives gives, boolean deny) {
    return known.computeIfAbsent(new EffectiveRightsReader.Name(gives, deny), this::read);
  }

  private Content read(EffectiveRightsReader.Name name) {
    EffectiveRights given = reader.read(name);
    Set<PermissionKey> free = new LinkedHashSet<>();
    Set<PermissionKey> factor = new LinkedHashSet<>();
    Set<PermissionKey> deny = new LinkedHashSet<>();
    for (int p = 0; p < rights.permissions.size(); p++) {
      PermissionKey key = rights.permissions.get(p).key();
      if (given.allowsFreely(p, rights)) {
        free.add(key);
      } else if (given.allows(p, rights)) {
        factor.add(key);
      }
      if (given.isDenied(p, rights)) {
        deny.add(key);
      }
    }
    return new Content(free, factor, deny);
  }

  /** {@return what there is of a thing's content that comes to some permissions} */
  static Content part(Content whole, Set<PermissionKey> permissions) {
    Set<PermissionKey> free = new TreeSet<>(BY_KEY);
    Set<PermissionKey> factor = new TreeSet<>(BY_KEY);
    for (PermissionKey it : permissions) {
      (whole.free().contains(it) ? free : factor).add(it);
    }
    return new Content(free, factor, Set.of());
  }

  private static final Comparator<PermissionKey> BY_KEY =
      Comparator.comparing(PermissionKey::value);

  /**
   * {@return something that gives exactly some content}
   *
   * @param like what gave more before: what is made is named after it
   * @param account whose it is, where what gave more is nobody's
   */
  Gives giving(Content content, Gives like, @Nullable AccountKey account) {
    Gives there = existing.get(content);
    if (there != null) {
      return there;
    }
    AccountKey of = ownerOf(like, catalogue);
    AccountKey owner = of == null ? account : of;
    Gives gives =
        made.computeIfAbsent(new Made(content, owner), it -> make(content, like, it.account()));
    known.put(new EffectiveRightsReader.Name(gives, false), content);
    return gives;
  }

  private Gives make(Content content, Gives like, @Nullable AccountKey owner) {
    String stem = stem(like);
    String name = named(nameOf(like), content.size() == 0 ? ", denies only" : ", trimmed");
    if (content.factor().isEmpty()) {
      PermissionSet set = set(stem, name, owner, content.free(), content.deny());
      Gives gives = new Gives.OfSet(set.key());
      parts.put(gives, List.of(set));
      return gives;
    }
    List<Thing> all = new ArrayList<>();
    PermissionSet strict = set(stem, name, owner, content.factor(), Set.of());
    all.add(strict);
    Role role = role(stem, name, owner, true, List.of(strict.key()), List.of());
    all.add(role);
    if (!content.free().isEmpty()) {
      PermissionSet plain = set(stem, name, owner, content.free(), Set.of());
      all.add(plain);
      role = role(stem, name, owner, false, List.of(plain.key()), List.of(role.key()));
      all.add(role);
    }
    Gives gives = new Gives.OfRole(role.key());
    parts.put(gives, List.copyOf(all));
    return gives;
  }

  private static String named(String name, String mark) {
    int last = name.lastIndexOf(", trimmed");
    return (last < 0 ? name : name.substring(0, last)) + mark;
  }

  /** Has a batch make what was made for it. */
  void ensure(Gives gives, ChangeBatch batch) {
    parts.getOrDefault(gives, List.of()).forEach(batch::ensure);
  }

  private PermissionSet set(
      String stem,
      String name,
      @Nullable AccountKey owner,
      Set<PermissionKey> allow,
      Set<PermissionKey> deny) {
    return new PermissionSet(
        new PermissionSetKey(free(stem)),
        About.named(name),
        owner,
        tops(allow),
        bottoms(deny),
        List.of());
  }

  private Role role(
      String stem,
      String name,
      @Nullable AccountKey owner,
      boolean factor,
      List<PermissionSetKey> sets,
      List<RoleKey> inherits) {
    return new Role(
        new RoleKey(free(stem)),
        About.named(name),
        owner,
        null,
        null,
        false,
        sets,
        inherits,
        factor,
        List.of(),
        null,
        null,
        List.of());
  }

  /** Those that no other one implies: they come to all of them. */
  private List<PermissionKey> tops(Set<PermissionKey> allow) {
    Set<PermissionKey> tops = new TreeSet<>(BY_KEY);
    tops.addAll(allow);
    for (PermissionKey it : allow) {
      for (PermissionKey implied : PermissionClosure.implied(it, catalogue)) {
        if (!implied.equals(it)) {
          tops.remove(implied);
        }
      }
    }
    return List.copyOf(tops);
  }

  private List<PermissionKey> bottoms(Set<PermissionKey> deny) {
    Set<PermissionKey> bottoms = new TreeSet<>(BY_KEY);
    bottoms.addAll(deny);
    for (PermissionKey it : deny) {
      for (PermissionKey implying : PermissionClosure.implying(it, catalogue)) {
        if (!implying.equals(it)) {
          bottoms.remove(implying);
        }
      }
    }
    return List.copyOf(bottoms);
  }

  /** What the key of something that was made ends with, a number apart. */
  static final String MARK = ".trimmed";

  /** {@return the key of what something was made of, where it was made} */
  static String withoutMark(String key) {
    int mark = key.indexOf(MARK);
    return mark < 0 ? key : key.substring(0, mark);
  }

  private String free(String stem) {
    String key = stem + MARK;
    for (int n = 2; !taken.add(key); n++) {
      key = stem + MARK + "-" + n;
    }
    return key;
  }

  private static String stem(Gives like) {
    String key = like.key().value();
    return withoutMark(
        key.startsWith(Supplied.PREFIX) ? key.substring(Supplied.PREFIX.length()) : key);
  }

  private String nameOf(Gives like) {
    return switch (like) {
      case Gives.OfRole(RoleKey it) -> name(catalogue.roles().get(it), it);
      case Gives.OfSet(PermissionSetKey it) -> name(catalogue.sets().get(it), it);
      case Gives.OfPermission(PermissionKey it) -> name(catalogue.permissions().get(it), it);
    };
  }

  private static String name(@Nullable Thing thing, Key key) {
    return thing == null ? key.value() : thing.about().nameOr(key);
  }

  /** {@return the account that something belongs to which is given}, null where it is shared */
  public static @Nullable AccountKey ownerOf(Gives like, Catalogue catalogue) {
    return switch (like) {
      case Gives.OfRole(RoleKey it) -> account(catalogue.roles().get(it));
      case Gives.OfSet(PermissionSetKey it) -> account(catalogue.sets().get(it));
      case Gives.OfPermission(PermissionKey it) -> account(catalogue.permissions().get(it));
    };
  }

  private static @Nullable AccountKey account(@Nullable Thing it) {
    return switch (it) {
      case Role role -> role.account();
      case PermissionSet set -> set.account();
      case Permission permission -> permission.account();
      case null, default -> null;
    };
  }

  private static final int MOST_TRIED = 40;

  /**
   * {@return things that exist and give a proper part of some content}, those that give least first
   */
  public List<Gives> lesser(Content whole) {
    List<Map.Entry<Content, Gives>> found = new ArrayList<>();
    for (Map.Entry<Content, Gives> it : existing.entrySet()) {
      Content less = it.getKey();
      if (less.size() < whole.size()
          && whole.free().containsAll(less.free())
          && whole.factor().containsAll(less.factor())) {
        found.add(it);
      }
    }
    found.sort(Comparator.comparingInt(it -> it.getKey().size()));
    return found.stream().limit(MOST_TRIED).map(Map.Entry::getValue).toList();
  }
}
