package mandala.core.model.key;

/**
 * The name by which a thing is known, one type for each kind of thing.
 *
 * <p>Keys are compared exactly. Whether a key is well formed and free is a question about a whole
 * model and answered by {@code ModelCheck}; here it is only not blank.
 */
public sealed interface Key
    permits AccountKey,
        UnitKey,
        PatternKey,
        PrincipalKey,
        GroupKey,
        TypeKey,
        PermissionKey,
        PermissionSetKey,
        RoleKey,
        CollectionKey,
        AssignmentKey,
        BridgeKey,
        DelegationKey,
        ExclusionKey,
        ExpectationKey,
        ResourceKey {

  /** {@return the key as a document writes it} */
  String value();
}
