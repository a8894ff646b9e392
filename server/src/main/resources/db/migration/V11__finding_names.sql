-- Violations are kept under names in fixed words (Finding.id) instead of names of classes.
update rule_broken set about = case
  when about like 'ExclusionBroken %' then 'exclusion-broken ' || substr(about, 17)
  when about like 'ExpectationFails %' then 'expectation-fails ' || substr(about, 18)
  when about like 'PrerequisiteMissing %' then 'prerequisite-missing ' || substr(about, 21)
  when about like 'HolderLimit % true' then
    'too-few-holders ' || substr(about, 13, length(about) - 17)
  when about like 'HolderLimit % false' then
    'too-many-holders ' || substr(about, 13, length(about) - 18)
  else about
end;
