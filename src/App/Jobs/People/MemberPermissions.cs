using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>The rights of a membership as it is stored.</summary>
public static class MemberPermissions
{
    /// <summary>What a member may do.</summary>
    /// <param name="member">The member, with the job.</param>
    public static JobPermissions Permissions(this Membership member) =>
        new(member.Role, member.PartyId, member.Job.SharesOriginals, member.Job.ArchivedAt is not null);
}
