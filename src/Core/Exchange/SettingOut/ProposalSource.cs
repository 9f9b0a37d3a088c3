namespace SteadyLintel.Exchange;

/// <summary>A source that a proposal speaks of: what it declares, and where it lies.</summary>
/// <param name="Label">What to call it.</param>
/// <param name="Facts">What it declares and looks like, in its own frame.</param>
/// <param name="SetOut">Where it lies; null while it is not set out.</param>
public sealed record ProposalSource(string Label, FrameFacts Facts, SettingOutDocument? SetOut);
