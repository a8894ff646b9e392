package mandala.core.rule;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import mandala.core.model.Catalogue;
import mandala.core.model.Clause;
import mandala.core.model.Group;
import mandala.core.model.Pattern;
import mandala.core.model.Principal;
import mandala.core.model.ResourceCollection;
import mandala.core.model.Subject;
import mandala.core.model.Term;
import mandala.core.model.key.AccountKey;
import mandala.core.model.key.CollectionKey;
import mandala.core.model.key.GroupKey;
import mandala.core.model.key.PatternKey;
import mandala.core.model.key.PrincipalKey;
import mandala.core.model.key.ResourceKey;
import mandala.core.model.key.TypeKey;
import mandala.core.model.key.UnitKey;
import org.jspecify.annotations.Nullable;

/**
 * Which terms and clauses cover one resource (section 4), seals aside ({@link Seals}). A clause
 * covers what each of its terms covers, a scope what one of its clauses covers.
 */
public final class ScopeCoverage {

  private final Catalogue catalogue;
  private final @Nullable Principal principal;

  /** Whether relative terms are asked about for anybody rather than for the principal. */
  private final boolean forAnybody;

  private final ResourceKey resource;

  /** The resource and all above it, itself first. */
  private final List<ResourceKey> upward = new ArrayList<>();

  private final AccountKey account;
  private final @Nullable UnitKey unit;
  private final Map<String, String> labels;

  private ScopeCoverage(
      Catalogue catalogue,
      @Nullable Principal principal,
      boolean forAnybody,
      ResourceKey resource) {
    this.catalogue = catalogue;
    this.principal = principal;
    this.forAnybody = forAnybody;
    this.resource = resource;
    for (ResourceKey at = resource; at != null; at = catalogue.parentOf(at)) {
      upward.add(at);
    }
    AccountKey home = catalogue.accountOf(resource);
    if (home == null) {
      throw new IllegalArgumentException("There is no resource '" + resource + "'");
    }
    account = home;
    unit = catalogue.unitOf(resource);
    labels = catalogue.labelsOf(resource);
  }

  /**
   * Looks at a resource for one principal, null for anonymous, for whom relative terms cover
   * nothing.
   *
   * @throws IllegalArgumentException if there is no such resource
   */
  public static ScopeCoverage of(
      ResourceKey resource, @Nullable Principal principal, Catalogue catalogue) {
    return new ScopeCoverage(catalogue, principal, false, resource);
  }

  /**
   * Looks at a resource for nobody in particular: a relative term covers it where it might for
   * somebody.
   *
   * @throws IllegalArgumentException if there is no such resource
   */
  public static ScopeCoverage ofAnybody(ResourceKey resource, Catalogue catalogue) {
    return new ScopeCoverage(catalogue, null, true, resource);
  }

  /** {@return the account that the resource belongs to} */
  public AccountKey account() {
    return account;
  }

  /** {@return whether a clause of a scope covers the resource} */
  public boolean covers(List<Clause> scope) {
    return scope.stream().anyMatch(this::covers);
  }

  /** {@return whether each term of a clause covers the resource} */
  public boolean covers(Clause clause) {
    return clause.terms().stream().allMatch(this::covers);
  }

  /** {@return whether a term covers the resource} */
  public boolean covers(Term term) {
    return switch (term) {
      case Term.Everything _ -> true;
      case Term.InAccount(AccountKey key) -> key.equals(account);
      case Term.OwnAccount _ ->
          forAnybody || (principal != null && principal.account().equals(account));
      case Term.Tree(ResourceKey key) -> upward.contains(key);
      case Term.Only(ResourceKey key) -> key.equals(resource);
      case Term.InCollection(CollectionKey key) -> {
        ResourceCollection collection = catalogue.collections().get(key);
        yield collection != null && collection.members().stream().anyMatch(upward::contains);
      }
      case Term.OfType(TypeKey key) -> catalogue.typeOf(resource).equals(key);
      case Term.InUnit(UnitKey key) -> unit != null && catalogue.isAtOrBelow(unit, key);
      case Term.OwnUnit _ -> isInOwnUnit(true);
      case Term.OwnedBy(Term.Owner owner) -> isOwned(owner);
      case Term.Labelled(Map<String, String> wanted) ->
          labels.entrySet().containsAll(wanted.entrySet());
    };
  }

  /**
   * {@return whether the resource's unit is one of the principal's own}
   *
   * @param viewing whether a reach for viewing only is enough
   */
  public boolean isInOwnUnit(boolean viewing) {
    return forAnybody
        || (principal != null
            && unit != null
            && UnitReach.covers(principal, unit, viewing, catalogue));
  }

  private boolean isOwned(Term.Owner owner) {
    PrincipalKey whose = catalogue.ownerOf(resource);
    if (owner == Term.Owner.NONE || whose == null) {
      return owner == Term.Owner.NONE && whose == null;
    }
    if (forAnybody || principal == null) {
      return forAnybody;
    }
    return owner == Term.Owner.SELF ? whose.equals(principal.key()) : isOfTeam(whose, principal);
  }

  /** Whether somebody is the principal or reports to it, over however many managers. */
  private boolean isOfTeam(PrincipalKey whose, Principal manager) {
    for (PrincipalKey at = whose; at != null; ) {
      if (at.equals(manager.key())) {
        return true;
      }
      Principal it = catalogue.principals().get(at);
      at = it == null ? null : it.manager();
    }
    return false;
  }

  /**
   * {@return the account where relative terms of an assignment to a subject stay}: a group's, an
   * account's, a pattern's; null where they follow the principal
   */
  public static @Nullable AccountKey homeOf(Subject subject, Catalogue catalogue) {
    return switch (subject) {
      case Subject.OfGroup(GroupKey key) -> {
        Group group = catalogue.groups().get(key);
        yield group == null ? null : group.account();
      }
      case Subject.OfAccount(AccountKey key) -> key;
      case Subject.OfPattern(PatternKey key) -> {
        Pattern pattern = catalogue.patterns().get(key);
        yield pattern == null ? null : pattern.account();
      }
      case Subject.OfPrincipal _, Subject.Public _ -> null;
    };
  }
}
