package mandala.core.model.key;

/** A resource: a listed one by its key, or {@code account:K}, {@code unit:U}, {@code group:G}. */
public record ResourceKey(String value) implements Key {
  public ResourceKey {
    KeyText.require(value);
  }

  /** {@return the resource that an account is} */
  public static ResourceKey of(AccountKey account) {
    return new ResourceKey("account:" + account.value());
  }

  /** {@return the resource that a unit is} */
  public static ResourceKey of(UnitKey unit) {
    return new ResourceKey("unit:" + unit.value());
  }

  /** {@return the resource that a group is} */
  public static ResourceKey of(GroupKey group) {
    return new ResourceKey("group:" + group.value());
  }

  /** {@return whether the model's own objects made this resource} (section 1) */
  public boolean implicit() {
    return value.indexOf(':') >= 0;
  }

  @Override
  public String toString() {
    return value;
  }
}
