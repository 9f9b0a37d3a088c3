namespace SteadyLintel.Exchange;

/// <summary>What a member may do in a job, each right said once: pages, tokens and background work ask here.</summary>
/// <param name="Role">The member's role.</param>
/// <param name="Party">A contributor's or recipient's party.</param>
/// <param name="SharesOriginals">Whether contributors see the files of other parties.</param>
/// <param name="IsArchived">Whether the job is archived: then nothing of it changes.</param>
public readonly record struct JobPermissions(MemberRole Role, Guid? Party, bool SharesOriginals, bool IsArchived)
{
    /// <summary>Whether the member may change the job itself.</summary>
    public bool IsCoordinator => Role == MemberRole.Coordinator;

    /// <summary>Whether the member sees more of the job than what was handed over to a party.</summary>
    public bool MaySeeJob => Role != MemberRole.Recipient;

    /// <summary>Whether the member may deliver for a party.</summary>
    public bool MayDeliver(Guid party) => IsCoordinator || (Role == MemberRole.Contributor && Party == party);

    /// <summary>Whether the member may download the originals of a party, and read what was found in them.</summary>
    public bool MaySeeFiles(Guid party) =>
        Role switch
        {
            MemberRole.Coordinator or MemberRole.Reader => true,
            MemberRole.Contributor => SharesOriginals || Party == party,
            _ => false,
        };

    /// <summary>Whether the member may use, reject and withdraw deliveries.</summary>
    public bool MayDecide => IsCoordinator;

    /// <summary>Whether the member may lift the lock of a source that somebody else locked.</summary>
    public bool MayBreakLocks => IsCoordinator;

    /// <summary>Whether the member may set sources out, place drawings and change levels.</summary>
    public bool MaySetOut => IsCoordinator && !IsArchived;

    /// <summary>Whether the member may write, run and release orders.</summary>
    public bool MayHandOver => IsCoordinator;

    /// <summary>Whether the member may change tables, sets and views that orders name.</summary>
    public bool MayChangeLibrary => MayHandOver && !IsArchived;

    /// <summary>Whether the member may amend a source.</summary>
    /// <param name="party">The party of the source.</param>
    /// <param name="protection">What the source says of who may amend it.</param>
    /// <param name="reach">How deep the amendment goes.</param>
    public bool MayAmend(Guid party, SourceProtection protection, AmendmentReach reach) =>
        !IsArchived
        && reach
            <= SourceProtection.ReachOf(
                Role switch
                {
                    MemberRole.Coordinator => protection.Coordinator,
                    MemberRole.Contributor => Party == party ? protection.Party : protection.Others,
                    _ => "nothing",
                }
            );

    /// <summary>Whether the member may ask for amendments that they may not make.</summary>
    public bool MayAskForAmendments => !IsArchived && Role is (MemberRole.Coordinator or MemberRole.Contributor);

    /// <summary>Whether the member may answer what a party is asked.</summary>
    public bool MayAnswerFor(Guid party) => !IsArchived && Role == MemberRole.Contributor && Party == party;

    /// <summary>Whether the member may ask: make topics and change what they say.</summary>
    public bool MayWriteTopics => !IsArchived && Role is (MemberRole.Coordinator or MemberRole.Contributor);

    /// <summary>Whether the member may answer the topics that they see.</summary>
    public bool MayAnswerTopics => MayWriteTopics || (!IsArchived && Role == MemberRole.Recipient);

    /// <summary>Whether the member may say which words a job uses for its topics, and what closes them.</summary>
    public bool MayManageTopics => !IsArchived && IsCoordinator;

    /// <summary>Whether the member may save details of drawings.</summary>
    public bool MaySaveDetails => !IsArchived && Role is (MemberRole.Coordinator or MemberRole.Contributor);
}
