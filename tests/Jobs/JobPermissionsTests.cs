using SteadyLintel.Exchange;
using SteadyLintel.Jobs;
using SteadyLintel.Store;

namespace SteadyLintel.Tests;

public class JobPermissionsTests
{
    private static readonly Guid Own = Guid.NewGuid(),
        Other = Guid.NewGuid();

    // Role, archived or not: deliver for one's own party and another, see their files where they are not shared, decide, set out, hand over,
    // change the library, save details.
    [Theory]
    [InlineData(MemberRole.Coordinator, false, "dD fF decide set hand library details")]
    [InlineData(MemberRole.Coordinator, true, "dD fF decide hand")]
    [InlineData(MemberRole.Contributor, false, "d f details")]
    [InlineData(MemberRole.Contributor, true, "d f")]
    [InlineData(MemberRole.Reader, false, "fF")]
    [InlineData(MemberRole.Reader, true, "fF")]
    [InlineData(MemberRole.Recipient, false, "")]
    [InlineData(MemberRole.Recipient, true, "")]
    public void Each_role_may_what_the_table_says(MemberRole role, bool archived, string expected)
    {
        var may = new JobPermissions(role, Own, false, archived);
        (bool Has, string Word)[] rights =
        [
            (may.MayDeliver(Own), "d"),
            (may.MayDeliver(Other), "D"),
            (may.MaySeeFiles(Own), "f"),
            (may.MaySeeFiles(Other), "F"),
            (may.MayDecide, "decide"),
            (may.MaySetOut, "set"),
            (may.MayHandOver, "hand"),
            (may.MayChangeLibrary, "library"),
            (may.MaySaveDetails, "details"),
        ];
        string Letters(string of) =>
            string.Concat(
                rights.Where(r => r.Has && of.Contains(r.Word, StringComparison.Ordinal)).Select(r => r.Word)
            );
        string[] words = [Letters("dD"), Letters("fF"), .. rights.Skip(4).Where(r => r.Has).Select(r => r.Word)];
        Assert.Equal(expected, string.Join(' ', words.Where(w => w.Length > 0)));
        Assert.Equal(role != MemberRole.Recipient, may.MaySeeJob);
        Assert.Equal(may.MayDecide, may.MayBreakLocks);
    }

    [Fact]
    public void Shared_originals_are_seen_by_contributors_of_other_parties_and_not_by_recipients()
    {
        Assert.True(new JobPermissions(MemberRole.Contributor, Own, true, false).MaySeeFiles(Other));
        Assert.False(new JobPermissions(MemberRole.Recipient, Own, true, false).MaySeeFiles(Own));
    }
}
