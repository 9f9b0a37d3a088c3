using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using SteadyLintel.Exchange;
using SteadyLintel.Store;

namespace SteadyLintel.Jobs;

/// <summary>A member of a job.</summary>
/// <param name="Source">The number of its source in the job's state.</param>
/// <param name="Revision">The revision.</param>
/// <param name="Number">Its number in the revision.</param>
/// <param name="Rung">The job's storey, -1 for none.</param>
/// <param name="Member">The member in the job's frame.</param>
public sealed record JobMember(int Source, Guid Revision, int Number, int Rung, Member Member);

/// <summary>What two sources differs of one member of the job.</summary>
/// <param name="First">The first source's.</param>
/// <param name="Second">The second's.</param>
/// <param name="What">What.</param>
public sealed record JobDisagreement(JobMember First, JobMember Second, MemberDisagreement What);

/// <summary>Beams, columns and braces of a job's newest revisions.</summary>
public static class JobStructuralMembers
{
    /// <summary>A member as it is kept; null for none.</summary>
    internal static string? Pack(Member? member) =>
        member is null ? null : JsonSerializer.Serialize(member, IntakeStore.Json);

    /// <summary>Loads the members of all sources, as they lie in the job.</summary>
    public static async Task<IReadOnlyList<JobMember>> LoadAsync(LintelDb db, JobState state, CancellationToken cancel)
    {
        var members = new List<JobMember>();
        var number = Enumerable
            .Range(0, state.Sources.Count)
            .Where(n => state.Sources[n].Latest is not null)
            .ToDictionary(n => state.Sources[n].Latest!.Id);
        Guid[] ids = [.. number.Keys];
        await foreach (
            var row in db
                .Elements.AsNoTracking()
                .Where(e => ids.Contains(e.RevisionId) && e.Member != null)
                .Select(e => new
                {
                    e.RevisionId,
                    e.Number,
                    e.Storey,
                    e.Member,
                })
                .AsAsyncEnumerable()
                .WithCancellation(cancel)
        )
        {
            int source = number[row.RevisionId];
            var member = JsonSerializer.Deserialize<Member>(row.Member!, IntakeStore.Json)!;
            members.Add(
                new JobMember(
                    source,
                    row.RevisionId,
                    row.Number,
                    row.Storey < 0 ? -1 : state.Schedule.RungOf(source, row.Storey),
                    member.In(state.Sources[source].Frame)
                )
            );
        }

        // A table keeps no order, and who is compared with whom follows from it.
        return [.. members.OrderBy(m => m.Source).ThenBy(m => m.Number)];
    }

    /// <summary>Everything that any two sources differs of a member they share.</summary>
    public static IReadOnlyList<JobDisagreement> Disagreements(IReadOnlyList<JobMember> members)
    {
        var sources = members.GroupBy(m => m.Source).Select(g => g.ToList()).ToList();
        var found = new List<JobDisagreement>();
        for (int i = 0; i < sources.Count; i++)
        {
            for (int j = i + 1; j < sources.Count; j++)
            {
                var (first, second) = (sources[i], sources[j]);
                found.AddRange(
                    MemberDisagreements
                        .Find(first.ConvertAll(m => m.Member), second.ConvertAll(m => m.Member))
                        .Select(d => new JobDisagreement(first[d.First], second[d.Second], d))
                );
            }
        }

        return found;
    }
}
