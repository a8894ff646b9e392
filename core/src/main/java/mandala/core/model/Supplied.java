package mandala.core.model;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import mandala.core.model.Permission.AccessClass;
import mandala.core.model.Permission.Risk;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.RoleKey;
import mandala.core.model.key.TypeKey;

/**
 * The permissions, sets and roles that exist in every model without being listed: Mandala's rights
 * over the model itself (section 11). They are locked; documents may refer to them.
 */
public final class Supplied {

  /** Keys that begin so are kept for supplied things. */
  public static final String PREFIX = "mandala.";

  /** Shows a principal, a group, a unit, or what an account holds. */
  public static final PermissionKey DIRECTORY_READ = permission("directory.read");

  /** Questions about a principal's access, and who-can on a resource. */
  public static final PermissionKey ACCESS_ASK = permission("access.ask");

  /** What changing things of each kind asks for (section 11). */
  public static final PermissionKey PLACES_MANAGE = permission("places.manage");

  public static final PermissionKey PEOPLE_MANAGE = permission("people.manage");
  public static final PermissionKey GROUPS_MANAGE = permission("groups.manage");
  public static final PermissionKey RIGHTS_DEFINE = permission("rights.define");
  public static final PermissionKey ACCESS_ASSIGN = permission("access.assign");
  public static final PermissionKey BRIDGE_MANAGE = permission("bridge.manage");
  public static final PermissionKey ACCOUNT_MANAGE = permission("account.manage");

  /** Lets somebody approve what another wants to change. */
  public static final PermissionKey DRAFT_APPROVE = permission("draft.approve");

  /** Sets what holds for the whole house: policies, connections. */
  public static final PermissionKey SETTINGS_MANAGE = permission("settings.manage");

  /** Lets somebody look with another's eyes. */
  public static final PermissionKey ACCESS_IMPERSONATE = permission("access.impersonate");

  /** Shows who did what. */
  public static final PermissionKey TRAIL_READ = permission("trail.read");

  /** Whether somebody may run reviews in an account. */
  public static final PermissionKey REVIEW_RUN = permission("review.run");

  /** Whoever may change everything in an account; needs a second factor. */
  public static final RoleKey OWNER = new RoleKey("mandala.owner");

  /** Whoever defines roles and gives access in an account. */
  public static final RoleKey SECURITY_ADMINISTRATOR =
      new RoleKey("mandala.security-administrator");

  private record Row(String key, AccessClass accessClass, Risk risk, boolean everyType) {}

  private static final List<Row> ROWS =
      List.of(
          new Row("directory.read", AccessClass.VIEW, Risk.LOW, false),
          new Row("access.ask", AccessClass.VIEW, Risk.MODERATE, true),
          new Row("trail.read", AccessClass.VIEW, Risk.MODERATE, false),
          new Row("access.impersonate", AccessClass.VIEW, Risk.HIGH, false),
          new Row("places.manage", AccessClass.ADMINISTER, Risk.HIGH, true),
          new Row("people.manage", AccessClass.ADMINISTER, Risk.HIGH, false),
          new Row("groups.manage", AccessClass.ADMINISTER, Risk.HIGH, false),
          new Row("draft.approve", AccessClass.ADMINISTER, Risk.HIGH, false),
          new Row("settings.manage", AccessClass.ADMINISTER, Risk.HIGH, false),
          new Row("review.run", AccessClass.ADMINISTER, Risk.MODERATE, false),
          new Row("rights.define", AccessClass.ADMINISTER, Risk.CRITICAL, false),
          new Row("access.assign", AccessClass.ADMINISTER, Risk.CRITICAL, true),
          new Row("bridge.manage", AccessClass.ADMINISTER, Risk.CRITICAL, false),
          new Row("account.manage", AccessClass.ADMINISTER, Risk.CRITICAL, false));

  private static final Map<String, String> NAMES =
      Map.ofEntries(
          Map.entry("directory.read", "Read the directory"),
          Map.entry("access.ask", "Ask about access"),
          Map.entry("trail.read", "Read the trail"),
          Map.entry("access.impersonate", "See as another"),
          Map.entry("places.manage", "Manage places"),
          Map.entry("people.manage", "Manage people"),
          Map.entry("groups.manage", "Manage groups"),
          Map.entry("draft.approve", "Approve drafts"),
          Map.entry("settings.manage", "Manage settings"),
          Map.entry("review.run", "Run reviews"),
          Map.entry("rights.define", "Define rights"),
          Map.entry("access.assign", "Assign access"),
          Map.entry("bridge.manage", "Manage bridges"),
          Map.entry("account.manage", "Manage accounts"),
          Map.entry("owner", "Owner"),
          Map.entry("security-administrator", "Security administrator"),
          Map.entry("directory-administrator", "Directory administrator"),
          Map.entry("access-reviewer", "Access reviewer"),
          Map.entry("auditor", "Auditor"));

  private static final Map<String, List<String>> HOLDS = holds();

  private Supplied() {}

  private static PermissionKey permission(String name) {
    return new PermissionKey(PREFIX + name);
  }

  private static Map<String, List<String>> holds() {
    List<String> all = ROWS.stream().map(Row::key).toList();
    List<String> most = new ArrayList<>(all);
    most.removeAll(List.of("account.manage", "settings.manage"));
    Map<String, List<String>> holds = new LinkedHashMap<>();
    holds.put("owner", all);
    holds.put("security-administrator", most);
    holds.put(
        "directory-administrator", List.of("directory.read", "people.manage", "groups.manage"));
    holds.put("access-reviewer", List.of("directory.read", "access.ask", "review.run"));
    holds.put("auditor", List.of("directory.read", "access.ask", "trail.read"));
    return holds;
  }

  /**
   * {@return the supplied permissions}
   *
   * @param listed the model's resource types, to which those for every type apply as well
   */
  public static List<Permission> permissions(List<ResourceType> listed) {
    List<TypeKey> own = List.of(ResourceType.ACCOUNT, ResourceType.UNIT, ResourceType.GROUP);
    Set<TypeKey> every = new LinkedHashSet<>(own);
    listed.forEach(type -> every.add(type.key()));
    return ROWS.stream()
        .map(row ->
            new Permission(
                permission(row.key),
                About.named(NAMES.getOrDefault(row.key, row.key)),
                null,
                row.everyType ? List.copyOf(every) : own,
                row.accessClass,
                row.risk,
                row.accessClass == AccessClass.ADMINISTER ? List.of(DIRECTORY_READ) : List.of(),
                List.of(),
                false))
        .toList();
  }

  /**
   * {@return the supplied sets}, one for each supplied role, without its need of a second factor
   */
  public static List<PermissionSet> permissionSets() {
    return HOLDS.entrySet().stream()
        .map(entry ->
            new PermissionSet(
                new PermissionSetKey(PREFIX + entry.getKey()),
                About.named(NAMES.getOrDefault(entry.getKey(), entry.getKey())),
                null,
                entry.getValue().stream().map(Supplied::permission).toList(),
                List.of(),
                List.of()))
        .toList();
  }

  /** {@return the supplied roles} */
  public static List<Role> roles() {
    return HOLDS.keySet().stream()
        .map(name ->
            new Role(
                new RoleKey(PREFIX + name),
                About.named(NAMES.getOrDefault(name, name)),
                null,
                null,
                null,
                false,
                List.of(new PermissionSetKey(PREFIX + name)),
                List.of(),
                name.equals("owner") || name.equals("security-administrator"),
                List.of(),
                null,
                null,
                List.of()))
        .toList();
  }
}
