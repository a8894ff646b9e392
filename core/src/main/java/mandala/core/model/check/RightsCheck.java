package mandala.core.model.check;

import java.util.List;
import java.util.function.Predicate;
import mandala.core.model.AccessModel;
import mandala.core.model.Catalogue;
import mandala.core.model.Permission;
import mandala.core.model.PermissionSet;
import mandala.core.model.Role;
import mandala.core.model.key.AccountKey;
import org.jspecify.annotations.Nullable;

/** Types, permissions, sets and roles: their references and values (section 1). */
final class RightsCheck {

  private final AccessModel model;
  private final Catalogue known;
  private final Faults faults;

  RightsCheck(AccessModel model, Catalogue known, Faults faults) {
    this.model = model;
    this.known = known;
    this.faults = faults;
  }

  void run() {
    for (int i = 0; i < model.resourceTypes().size(); i++) {
      owner(model.resourceTypes().get(i).account(), faults.at("$.resourceTypes").index(i));
    }
    for (int i = 0; i < model.permissions().size(); i++) {
      permission(model.permissions().get(i), faults.at("$.permissions").index(i));
    }
    for (int i = 0; i < model.permissionSets().size(); i++) {
      set(model.permissionSets().get(i), faults.at("$.permissionSets").index(i));
    }
    for (int i = 0; i < model.roles().size(); i++) {
      role(model.roles().get(i), faults.at("$.roles").index(i));
    }
  }

  private void owner(@Nullable AccountKey account, Faults.Place place) {
    if (account != null) {
      place
          .field("account")
          .requireKnown(known.accounts().containsKey(account), "account", account);
    }
  }

  private static <K> void all(List<K> keys, Predicate<K> isKnown, String kind, Faults.Place place) {
    for (int i = 0; i < keys.size(); i++) {
      place.index(i).requireKnown(isKnown.test(keys.get(i)), kind, keys.get(i));
    }
  }

  private void permission(Permission it, Faults.Place place) {
    owner(it.account(), place);
    if (it.on().isEmpty()) {
      place
          .field("on")
          .report("the permission applies to no resource type", "Name at least one type");
    }
    all(it.on(), known.types()::contains, "resource type", place.field("on"));
    all(it.implies(), known.permissions()::containsKey, "permission", place.field("implies"));
    all(it.requires(), known.permissions()::containsKey, "permission", place.field("requires"));
  }

  private void set(PermissionSet it, Faults.Place place) {
    owner(it.account(), place);
    all(it.allow(), known.permissions()::containsKey, "permission", place.field("allow"));
    all(it.deny(), known.permissions()::containsKey, "permission", place.field("deny"));
    all(it.includes(), known.sets()::containsKey, "permission set", place.field("includes"));
  }

  private void role(Role it, Faults.Place place) {
    owner(it.account(), place);
    if (it.basedOn() != null) {
      place
          .field("basedOn")
          .requireKnown(known.roles().containsKey(it.basedOn()), "role", it.basedOn());
    }
    all(it.sets(), known.sets()::containsKey, "permission set", place.field("sets"));
    all(it.inherits(), known.roles()::containsKey, "role", place.field("inherits"));
    all(it.prerequisites(), known.roles()::containsKey, "role", place.field("prerequisites"));
    Refs.principals(it.owners(), known, place.field("owners"));
    bounds(it.minHolders(), "minHolders", it.maxHolders(), "maxHolders", place);
  }

  static void bounds(
      @Nullable Integer min,
      String minName,
      @Nullable Integer max,
      String maxName,
      Faults.Place at) {
    if (min != null && min < 0) {
      at.field(minName).report(minName + " is " + min, "Use zero or more");
    }
    if (max != null && max < 0) {
      at.field(maxName).report(maxName + " is " + max, "Use zero or more");
    }
    if (min != null && max != null && min > max) {
      at.field(maxName)
          .report(
              maxName + " is " + max + ", less than " + minName + " " + min,
              "Raise the one or lower the other");
    }
  }
}
