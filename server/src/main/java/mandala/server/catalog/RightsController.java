package mandala.server.catalog;

import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import mandala.core.engine.Engine;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.Kind;
import mandala.core.model.Permission;
import mandala.core.model.Principal;
import mandala.core.model.Role;
import mandala.core.model.Subject;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PermissionKey;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.RoleKey;
import mandala.core.question.RoleHolder;
import mandala.core.rule.RoleContent;
import mandala.document.ChangeText;
import mandala.server.authorization.RequestContext;
import mandala.server.authorization.RequestContexts;
import mandala.server.model.History;
import mandala.server.platform.Problem;
import mandala.server.question.FigureView;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Roles and groups by themselves: what they amount to, and to whom they come. */
@RestController
@RequestMapping("/api/rights")
class RightsController {

  private static final int MOST = 200;

  private final RequestContexts contexts;
  private final History history;

  RightsController(RequestContexts contexts, History history) {
    this.contexts = contexts;
    this.history = history;
  }

  /** Something by key and name. */
  record Reference(String key, String name) {}

  /** Who answers for something; {@code state} as invited, active, suspended or left. */
  record OwnerView(String key, String name, String state) {}

  /**
   * A permission that a role allows or denies.
   *
   * @param through the sets that bring it, {@code juniors} the roles whose they are
   */
  record ContentLine(
      String key,
      String name,
      @Nullable String description,
      String accessClass,
      String risk,
      boolean allowed,
      boolean denied,
      boolean needsFactor,
      List<String> through,
      List<String> juniors) {}

  /**
   * Who holds a role.
   *
   * @param by the names of the subjects by which it comes
   */
  record HolderView(
      String key, String name, @Nullable String title, boolean active, List<String> by) {}

  /**
   * A role's page.
   *
   * @param adds permissions that it has and its origin has not, {@code takes} the other way round
   * @param originSince how its origin has changed since the role was made of it; null where it has
   *     none, or where that is not known
   * @param holders at most 200; {@code holding} how many there are
   */
  record RolePage(
      ThingView role,
      List<ContentLine> content,
      List<Reference> juniors,
      List<Reference> seniors,
      @Nullable Reference basedOn,
      @Nullable OriginSince originSince,
      List<Reference> copies,
      List<String> adds,
      List<String> takes,
      int holding,
      int active,
      List<HolderView> holders,
      List<AssignmentView> assignments) {}

  /**
   * How an origin has changed since a copy of it was made.
   *
   * @param revision in which the copy was made
   * @param added parts that have come since, {@code gone} those that it no longer has
   */
  record OriginSince(long revision, List<PartView> added, List<PartView> gone) {}

  /** A part of a role: {@code field} is {@code sets} or {@code inherits}. */
  record PartView(String field, String key, String name) {}

  private @Nullable OriginSince originSince(Role copy, RequestContext context, ChangeText text) {
    RoleKey origin = copy.basedOn();
    Long begun = origin == null ? null : history.begun(Kind.ROLES, copy.key().value()).orElse(null);
    Engine then = begun == null ? null : history.engineAt(begun, context.state());
    Role was = origin == null || then == null ? null : then.catalogue().roles().get(origin);
    Role is = origin == null ? null : context.asked().engine().catalogue().roles().get(origin);
    if (begun == null || was == null || is == null) {
      return null;
    }
    return new OriginSince(begun, beyond(is, was, text), beyond(was, is, text));
  }

  /** Sets and juniors of one role that another has not. */
  private static List<PartView> beyond(Role one, Role other, ChangeText text) {
    List<PartView> parts = new ArrayList<>();
    for (PermissionSetKey it : one.sets()) {
      if (!other.sets().contains(it)) {
        String name = text.name(Kind.PERMISSION_SETS, it.value());
        parts.add(new PartView("sets", it.value(), name));
      }
    }
    for (RoleKey it : one.inherits()) {
      if (!other.inherits().contains(it)) {
        parts.add(new PartView("inherits", it.value(), text.name(Kind.ROLES, it.value())));
      }
    }
    return parts;
  }

  @GetMapping("/roles/{key}")
  RolePage role(@PathVariable String key, @RequestParam(required = false) @Nullable String draft) {
    RequestContext context = contexts.context(draft, null);
    Engine engine = context.asked().engine();
    Catalogue catalogue = engine.catalogue();
    Role role = catalogue.roles().get(new RoleKey(key));
    if (role == null || !context.readPolicy().mayRead(role, catalogue)) {
      throw Problem.notFound("There is no role '" + key + "'. Choose one from the list.");
    }
    ChangeText text = context.text();
    Set<PermissionKey> own = allowed(role.key(), catalogue);
    RoleKey origin = role.basedOn();
    Set<PermissionKey> origins = origin == null ? own : allowed(origin, catalogue);
    List<HolderView> holders = holders(role.key(), context, text);
    return new RolePage(
        ThingView.of(role, context),
        content(role.key(), context, text),
        role.inherits().stream().flatMap(it -> reference(it, context).stream()).toList(),
        catalogue.roles().values().stream()
            .filter(it -> it.inherits().contains(role.key()))
            .flatMap(it -> reference(it.key(), context).stream())
            .toList(),
        origin == null ? null : reference(origin, context).orElse(null),
        originSince(role, context, text),
        catalogue.roles().values().stream()
            .filter(it -> role.key().equals(it.basedOn()))
            .flatMap(it -> reference(it.key(), context).stream())
            .toList(),
        without(own, origins, context, text),
        without(origins, own, context, text),
        holders.size(),
        (int) holders.stream().filter(HolderView::active).count(),
        holders.stream().limit(MOST).toList(),
        assignments(
            catalogue.assignments().values().stream()
                .filter(it -> it.gives().equals(new Gives.OfRole(role.key())))
                .toList(),
            context));
  }

  /** A role that may not be named is left out. */
  private static Optional<Reference> reference(RoleKey key, RequestContext context) {
    return context.naming().tells(Kind.ROLES, key.value())
        ? Optional.of(new Reference(key.value(), context.text().name(Kind.ROLES, key.value())))
        : Optional.empty();
  }

  private static Set<PermissionKey> allowed(RoleKey role, Catalogue catalogue) {
    Set<PermissionKey> allowed = new LinkedHashSet<>();
    RoleContent.of(role, catalogue).lines().stream()
        .filter(RoleContent.Line::allowed)
        .forEach(line -> allowed.add(line.permission()));
    return allowed;
  }

  private static List<String> without(
      Set<PermissionKey> these, Set<PermissionKey> those, RequestContext context, ChangeText text) {
    return these.stream()
        .filter(it -> !those.contains(it))
        .filter(it -> context.naming().tells(Kind.PERMISSIONS, it.value()))
        .map(it -> text.name(Kind.PERMISSIONS, it.value()))
        .toList();
  }

  private static List<ContentLine> content(RoleKey role, RequestContext context, ChangeText text) {
    Catalogue catalogue = context.asked().engine().catalogue();
    List<ContentLine> lines = new ArrayList<>();
    for (RoleContent.Line line : RoleContent.of(role, catalogue).lines()) {
      Permission it = catalogue.permissions().get(line.permission());
      if (it != null && context.naming().tells(Kind.PERMISSIONS, it.key().value())) {
        lines.add(
            new ContentLine(
                it.key().value(),
                text.name(Kind.PERMISSIONS, it.key().value()),
                it.about().description(),
                FigureView.word(it.accessClass()),
                FigureView.word(it.risk()),
                line.allowed(),
                line.denied(),
                line.needsFactor(),
                line.sets().stream()
                    .map(set -> text.name(Kind.PERMISSION_SETS, set.value()))
                    .toList(),
                line.roles().stream()
                    .filter(junior -> !junior.equals(role))
                    .map(junior -> text.name(Kind.ROLES, junior.value()))
                    .toList()));
      }
    }
    return lines;
  }

  private static List<HolderView> holders(RoleKey role, RequestContext context, ChangeText text) {
    Engine engine = context.asked().engine();
    Catalogue catalogue = engine.catalogue();
    Instant now = context.readPolicy().now();
    List<HolderView> views = new ArrayList<>();
    for (RoleHolder holder : engine.roleHolders(role, now)) {
      Principal it = catalogue.principals().get(holder.principal());
      if (it != null && context.readPolicy().mayRead(it)) {
        List<String> through = new ArrayList<>();
        holder.through().forEach(subject -> through.add(text.subject(subject)));
        if (through.isEmpty()) {
          through.add("a bridge");
        }
        views.add(
            new HolderView(
                it.key().value(),
                it.about().nameOr(it.key()),
                it.attributes().get("title"),
                engine.isActive(it.key(), now),
                through.stream().distinct().toList()));
      }
    }
    views.sort(Comparator.comparing(HolderView::name));
    return views;
  }

  static List<AssignmentView> assignments(List<Assignment> assignments, RequestContext context) {
    Catalogue asked = context.asked().engine().catalogue();
    return assignments.stream()
        .filter(it -> context.readPolicy().mayRead(it, asked))
        .map(it -> AssignmentView.of(it, context))
        .toList();
  }

  /**
   * How often things are in use, for lists.
   *
   * @param holders by role: how many hold it now, of those whom the viewer may see
   */
  record Uses(Map<String, Integer> holders) {}

  @GetMapping("/roles")
  Uses uses(@RequestParam(required = false) @Nullable String draft) {
    RequestContext context = contexts.context(draft, null);
    Engine engine = context.asked().engine();
    Instant now = context.readPolicy().now();
    Map<String, Integer> holders = new HashMap<>();
    engine
        .roleUse(now, it -> context.readPolicy().mayRead(it) && engine.isActive(it.key(), now))
        .forEach((role, count) -> {
          if (context.naming().tells(Kind.ROLES, role.value())) {
            holders.put(role.value(), count);
          }
        });
    return new Uses(holders);
  }

  /**
   * A group's page.
   *
   * @param members who is in it in the end, by list, rule or a group within; at most 200
   * @param size how many of them the viewer may see
   * @param elsewhere whether there are others
   * @param holds the groups listed in it, {@code heldBy} those in which it is listed
   * @param gives what being a member gives
   */
  record GroupPage(
      ThingView group,
      int size,
      boolean elsewhere,
      List<MemberView> members,
      List<Reference> holds,
      List<Reference> heldBy,
      List<OwnerView> owners,
      List<AssignmentView> gives) {}

  /**
   * Somebody in a group.
   *
   * @param listed whether they are listed; else a rule or a group within takes them in
   */
  record MemberView(
      String key,
      String kind,
      String name,
      @Nullable String title,
      String account,
      boolean active,
      boolean listed) {}

  @GetMapping("/groups/{key}")
  GroupPage group(
      @PathVariable String key, @RequestParam(required = false) @Nullable String draft) {
    RequestContext context = contexts.context(draft, null);
    Engine engine = context.asked().engine();
    Catalogue catalogue = engine.catalogue();
    Group group = catalogue.groups().get(new GroupKey(key));
    if (group == null || !context.readPolicy().mayRead(group, catalogue)) {
      throw Problem.notFound("There is no group '" + key + "'. Choose one from the list.");
    }
    ChangeText text = context.text();
    Subject itself = new Subject.OfGroup(group.key());
    Instant now = context.readPolicy().now();
    List<Principal> all = engine.having(itself, now);
    List<Principal> members = all.stream().filter(context.readPolicy()::mayRead).toList();
    return new GroupPage(
        ThingView.of(group, context),
        members.size(),
        members.size() < all.size(),
        members.stream()
            .limit(MOST)
            .map(it -> member(it, group, engine, context))
            .sorted(Comparator.comparing(MemberView::name))
            .toList(),
        group.members().stream()
            .filter(Group.Member.OfGroup.class::isInstance)
            .map(it -> ((Group.Member.OfGroup) it).key().value())
            .filter(it -> context.naming().tells(Kind.GROUPS, it))
            .map(it -> new Reference(it, text.name(Kind.GROUPS, it)))
            .toList(),
        catalogue.groups().values().stream()
            .filter(it -> it.members().contains(new Group.Member.OfGroup(group.key())))
            .filter(it -> context.naming().tells(Kind.GROUPS, it.key().value()))
            .map(it -> new Reference(it.key().value(), it.about().nameOr(it.key())))
            .toList(),
        group.owners().stream()
            .filter(it -> context.naming().tells(Kind.PRINCIPALS, it.value()))
            .map(it -> owner(it, text, catalogue))
            .toList(),
        assignments(
            catalogue.assignments().values().stream()
                .filter(it -> it.subject().equals(itself))
                .toList(),
            context));
  }

  private static OwnerView owner(PrincipalKey key, ChangeText text, Catalogue in) {
    Principal it = in.principals().get(key);
    return new OwnerView(
        key.value(),
        text.name(Kind.PRINCIPALS, key.value()),
        it == null ? "" : FigureView.word(it.status()));
  }

  private static MemberView member(
      Principal it, Group group, Engine engine, RequestContext context) {
    return new MemberView(
        it.key().value(),
        FigureView.word(it.kind()),
        it.about().nameOr(it.key()),
        it.attributes().get("title"),
        context.text().name(Kind.ACCOUNTS, it.account().value()),
        engine.isActive(it.key(), context.readPolicy().now()),
        group.lists(it));
  }
}
