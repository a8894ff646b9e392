package mandala.core.lifecycle;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Predicate;
import mandala.core.change.Change;
import mandala.core.change.Draft;
import mandala.core.change.Rewritten;
import mandala.core.model.About;
import mandala.core.model.Account;
import mandala.core.model.Assignment;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Gives;
import mandala.core.model.Group;
import mandala.core.model.PermissionSet;
import mandala.core.model.Principal;
import mandala.core.model.Role;
import mandala.core.model.Rule;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.Thing;
import mandala.core.model.Unit;
import mandala.core.model.Window;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.AssignmentKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.Key;
import mandala.core.model.key.PermissionSetKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.RoleKey;
import mandala.core.model.key.UnitKey;
import org.jspecify.annotations.Nullable;

/**
 * A new account made like one that is there: its units, its groups without their members, the roles
 * and permission sets that it defines, and what is assigned to its groups and to all of it, as far
 * as that names nothing but the account itself. People, places and exceptions stay where they are.
 *
 * @param like the account that it is made like
 * @param account the new one
 * @param parts what of it is copied
 * @param administrator who administers the new one; they answer for its groups and roles
 * @param administers role that the administrator gets on the whole of it
 */
public record AccountTemplate(
    AccountKey like,
    Account account,
    Set<Part> parts,
    PrincipalKey administrator,
    RoleKey administers) {

  /** Copies the parts. */
  public AccountTemplate {
    parts = Set.copyOf(parts);
  }

  /** What can be copied. */
  public enum Part {
    UNITS,
    /** Also what is assigned to the groups and to everybody of the account. */
    GROUPS,
    ROLES
  }

  /**
   * The changes that make an account.
   *
   * @param leftOut assignments to the copied groups that name something outside of the account, or
   *     hold for a time only
   */
  public record Made(List<Change> changes, int leftOut) {}

  /**
   * {@return what makes the account}
   *
   * @param told whether its maker may read a thing and all that it names: what they may not is left
   *     out. Of groups and roles it is asked without their members and owners, who are not copied
   */
  public Made made(Catalogue in, Predicate<Thing> told) {
    return new Copying(in, told).made();
  }

  /** The work on one model: what each key of the old account is in the new one. */
  private final class Copying {

    private final Catalogue in;
    private final Predicate<Thing> told;
    private final Map<Key, Key> by = new HashMap<>();
    private final List<Change> changes = new ArrayList<>();
    private int leftOut;

    Copying(Catalogue in, Predicate<Thing> told) {
      this.in = in;
      this.told = told;
      by.put(like, account.key());
      by.put(ResourceKey.of(like), ResourceKey.of(account.key()));
      if (parts.contains(Part.UNITS)) {
        for (Unit it : in.units().values()) {
          if (it.account().equals(like) && told.test(it)) {
            UnitKey key = new UnitKey(fresh(it.key(), k -> in.units().containsKey(new UnitKey(k))));
            by.put(it.key(), key);
            by.put(ResourceKey.of(it.key()), ResourceKey.of(key));
          }
        }
      }
      if (parts.contains(Part.ROLES)) {
        for (PermissionSet it : in.sets().values()) {
          if (like.equals(it.account()) && told.test(it)) {
            by.put(
                it.key(),
                new PermissionSetKey(
                    fresh(it.key(), k -> in.sets().containsKey(new PermissionSetKey(k)))));
          }
        }
        for (Role it : in.roles().values()) {
          if (like.equals(it.account())
              && !it.retired()
              && told.test(Rewritten.owners(it, List.of()))) {
            by.put(
                it.key(),
                new RoleKey(fresh(it.key(), k -> in.roles().containsKey(new RoleKey(k)))));
          }
        }
      }
      if (parts.contains(Part.GROUPS)) {
        for (Group it : in.groups().values()) {
          if (it.account().equals(like) && !it.retired() && told.test(bare(it))) {
            GroupKey key =
                new GroupKey(fresh(it.key(), k -> in.groups().containsKey(new GroupKey(k))));
            by.put(it.key(), key);
            by.put(ResourceKey.of(it.key()), ResourceKey.of(key));
          }
        }
      }
    }

    private Group bare(Group it) {
      return Rewritten.owners(Rewritten.members(it, List.of()), List.of());
    }

    /** The new account's key before it, in place of the old one's where that was there. */
    private String fresh(Key of, Predicate<String> taken) {
      String old = of.value();
      String prefix = like.value() + "-";
      String rest = old.startsWith(prefix) ? old.substring(prefix.length()) : old;
      String stem = account.key().value() + "-" + rest;
      String key = stem;
      for (int i = 2; taken.test(key) || isGiven(key); i++) {
        key = stem + "-" + i;
      }
      return key;
    }

    private boolean isGiven(String key) {
      return by.values().stream().anyMatch(it -> it.value().equals(key));
    }

    @SuppressWarnings("unchecked") // a key becomes one of its own kind
    private <K extends Key> K now(K key) {
      return (K) by.getOrDefault(key, key);
    }

    Made made() {
      changes.add(new Change.Added(account));
      in.units().values().stream().filter(it -> by.containsKey(it.key())).forEach(this::copy);
      in.sets().values().stream().filter(it -> by.containsKey(it.key())).forEach(this::copy);
      in.roles().values().stream().filter(it -> by.containsKey(it.key())).forEach(this::copy);
      in.groups().values().stream().filter(it -> by.containsKey(it.key())).forEach(this::copy);
      in.assignments().values().forEach(this::copy);
      administer();
      return new Made(Draft.of(changes).inOrder(), leftOut);
    }

    private void copy(Unit it) {
      UnitKey parent = it.parent();
      changes.add(
          new Change.Added(
              new Unit(
                  now(it.key()), it.about(), account.key(), parent == null ? null : now(parent))));
    }

    private void copy(PermissionSet it) {
      changes.add(
          new Change.Added(
              new PermissionSet(
                  now(it.key()),
                  it.about(),
                  account.key(),
                  it.allow(),
                  it.deny(),
                  it.includes().stream().map(this::now).toList())));
    }

    /** A code is one role's alone. */
    private void copy(Role it) {
      changes.add(
          new Change.Added(
              new Role(
                  now(it.key()),
                  it.about(),
                  account.key(),
                  null,
                  it.basedOn(),
                  false,
                  it.sets().stream().map(this::now).toList(),
                  it.inherits().stream().map(this::now).toList(),
                  it.requiresMfa(),
                  it.prerequisites().stream().map(this::now).toList(),
                  it.minHolders(),
                  it.maxHolders(),
                  List.of(administrator))));
    }

    /** A group keeps its rule and the groups of the account in it, no members. */
    private void copy(Group it) {
      List<Group.Member> groups = new ArrayList<>();
      for (Group.Member member : it.members()) {
        if (member instanceof Group.Member.OfGroup(GroupKey key) && by.containsKey(key)) {
          groups.add(new Group.Member.OfGroup(now(key)));
        }
      }
      changes.add(
          new Change.Added(
              new Group(
                  now(it.key()),
                  it.about(),
                  account.key(),
                  false,
                  groups,
                  rule(it.rule()),
                  List.of(administrator))));
    }

    /** A rule that names a unit, or the account, names the new one. */
    private @Nullable Rule rule(@Nullable Rule rule) {
      if (rule == null) {
        return null;
      }
      return new Rule(
          rule.match(),
          rule.tests().stream()
              .map(it ->
                  new Rule.Test(
                      it.attribute(),
                      it.op(),
                      it.values().stream().map(value -> value(it.attribute(), value)).toList()))
              .toList());
    }

    private String value(String attribute, String value) {
      return switch (attribute) {
        case "unit" -> now(new UnitKey(value)).value();
        case "account" -> now(new AccountKey(value)).value();
        default -> value;
      };
    }

    private void copy(Assignment it) {
      Subject subject = subject(it.subject());
      if (subject == null || !told.test(it)) {
        return;
      }
      List<Clause> scope = clauses(it.scope());
      List<Clause> view = clauses(it.viewScope());
      if (scope == null || view == null || !it.window().equals(Window.ALWAYS)) {
        leftOut++;
        return;
      }
      Key key = it.key();
      changes.add(
          new Change.Added(
              new Assignment(
                  new AssignmentKey(
                      fresh(key, k -> in.assignments().containsKey(new AssignmentKey(k)))),
                  it.about(),
                  subject,
                  gives(it.gives()),
                  it.effect(),
                  scope,
                  view,
                  it.window(),
                  it.mode(),
                  it.crossesSeals())));
      by.put(key, changes.getLast().things().getFirst().key());
    }

    /** Groups that were copied, and everybody of the account with them. */
    private @Nullable Subject subject(Subject it) {
      if (!parts.contains(Part.GROUPS)) {
        return null;
      }
      return switch (it) {
        case Subject.OfGroup(GroupKey key) when by.containsKey(key) ->
            new Subject.OfGroup(now(key));
        case Subject.OfAccount(AccountKey key) when key.equals(like) ->
            new Subject.OfAccount(account.key());
        default -> null;
      };
    }

    private Gives gives(Gives it) {
      return switch (it) {
        case Gives.OfRole(RoleKey key) -> new Gives.OfRole(now(key));
        case Gives.OfSet(PermissionSetKey key) -> new Gives.OfSet(now(key));
        case Gives.OfPermission _ -> it;
      };
    }

    /** The same clauses of the new account; null where one reaches beyond the old one. */
    private @Nullable List<Clause> clauses(List<Clause> all) {
      List<Clause> now = new ArrayList<>();
      for (Clause clause : all) {
        boolean held = false;
        List<Term> terms = new ArrayList<>();
        for (Term term : clause.terms()) {
          Term there = term(term);
          if (there == null) {
            return null;
          }
          terms.add(there);
          held |= term.relative() || !there.equals(term);
        }
        if (!held) {
          return null;
        }
        now.add(new Clause(terms));
      }
      return now;
    }

    private @Nullable Term term(Term it) {
      return switch (it) {
        case Term.InAccount(AccountKey key) ->
            key.equals(like) ? new Term.InAccount(account.key()) : null;
        case Term.Tree(ResourceKey key) -> by.containsKey(key) ? new Term.Tree(now(key)) : null;
        case Term.Only(ResourceKey key) -> by.containsKey(key) ? new Term.Only(now(key)) : null;
        case Term.InUnit(UnitKey key) -> by.containsKey(key) ? new Term.InUnit(now(key)) : null;
        case Term.InCollection _ -> null;
        case Term.Everything _,
            Term.OwnAccount _,
            Term.OfType _,
            Term.OwnUnit _,
            Term.OwnedBy _,
            Term.Labelled _ ->
            it;
      };
    }

    private void administer() {
      changes.add(
          new Change.Added(
              new Assignment(
                  new AssignmentKey(
                      fresh(
                          new AssignmentKey("administrator"),
                          k -> in.assignments().containsKey(new AssignmentKey(k)))),
                  About.NONE,
                  new Subject.OfPrincipal(Principal.Kind.PERSON, administrator),
                  new Gives.OfRole(administers),
                  Assignment.Effect.ALLOW,
                  List.of(new Clause(List.of(new Term.Tree(ResourceKey.of(account.key()))))),
                  List.of(),
                  Window.ALWAYS,
                  Assignment.Mode.STANDING,
                  false)));
    }
  }
}
