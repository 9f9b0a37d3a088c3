using CsCheck;
using SteadyLintel.Topics;

namespace SteadyLintel.Tests;

/// <summary>Two files as one: no word is lost, and what both changed is asked about.</summary>
public class TopicMergeTests
{
    private static TopicArchive With(Func<Topic, Topic> change) =>
        TopicSamples.Full() with
        {
            Topics = [change(TopicSamples.Full().Topics[0])],
        };

    [Fact]
    public void A_file_merged_with_itself_is_itself()
    {
        var result = TopicMerge.Merge(TopicSamples.Full(), TopicSamples.Full());
        Assert.Equal(
            (0, 0, 1, 0),
            (result.Added.Count, result.Changed.Count, result.Same.Count, result.OnlyOurs.Count)
        );
        Assert.Empty(result.Conflicts);
        Assert.Equal(TopicSamples.Write(TopicSamples.Full()), TopicSamples.Write(result.Archive));
    }

    [Fact]
    public void The_later_value_is_taken_and_lists_and_threads_are_joined()
    {
        var later = With(t =>
            t with
            {
                Status = "Closed",
                ModifiedDate = "2026-11-05T00:00:00Z",
                ModifiedAuthor = "bo@mep.example",
                Labels = ["MEP", "Rail"],
                Comments = [new TopicComment { Guid = "c-2", Text = "Done" }],
            }
        );
        foreach (bool swapped in new[] { false, true })
        {
            var result = swapped
                ? TopicMerge.Merge(later, TopicSamples.Full())
                : TopicMerge.Merge(TopicSamples.Full(), later);
            var t = result.Changed.Single();
            Assert.Equal(("Closed", "bo@mep.example"), (t.Status, t.ModifiedAuthor));
            Assert.Equal(["Doors", "MEP", "Rail"], t.Labels.Order());
            Assert.Equal([TopicSamples.Comment, "c-2"], t.Comments.Select(c => c.Guid).Order());
            Assert.Empty(result.Conflicts);
        }
    }

    // A program may have written two comments of one GUID.
    [Fact]
    public void Of_two_comments_with_one_GUID_the_words_of_both_are_kept()
    {
        var twice = With(t => t with { Comments = [t.Comments[0], t.Comments[0] with { Text = "other words" }] });
        foreach (var common in (TopicArchive?[])[null, TopicSamples.Full()])
        {
            var merged = TopicMerge.Merge(TopicSamples.Full(), twice, common).Archive.Topics.Single();
            Assert.Equal(
                [TopicSamples.Full().Topics[0].Comments[0].Text, "other words"],
                merged.Comments.Select(c => c.Text)
            );
        }
    }

    [Fact]
    public void What_one_side_of_two_that_have_all_removed_is_gone_unless_the_other_changed_it()
    {
        var common = TopicSamples.Full().Topics[0];
        var without = common with { Comments = [] };
        Assert.Empty(TopicMerge.Whole(without, common, common, _ => false).Merged.Comments);
        Assert.Empty(TopicMerge.Whole(common, without, common, _ => false).Merged.Comments);
        var edited = common with { Comments = [common.Comments[0] with { Text = "edited" }] };
        Assert.Equal("edited", TopicMerge.Whole(without, edited, common, _ => false).Merged.Comments.Single().Text);
        Assert.Equal("edited", TopicMerge.Whole(edited, without, common, _ => false).Merged.Comments.Single().Text);
        Assert.Single(TopicMerge.Whole(without, common, null, _ => false).Merged.Comments);
    }

    // What a server says in its own way is what it was, unless the server changed it.
    [Fact]
    public void What_a_server_has_not_changed_is_as_this_side_says_it()
    {
        var ours = TopicSamples.Full().Topics[0];
        var before = ours with
        {
            Stage = null,
            Title = "TITLE",
            Labels = [],
            CreationAuthor = "account",
            Comments = [ours.Comments[0] with { Author = "account", Date = "2026-12-01T00:00:00Z" }],
        };
        Assert.True(TopicMerge.AreSame(ours, SharedTopic.InOurTerms(before, before, ours)));
        Assert.True(TopicChanges.Of(ours, SharedTopic.InOurTerms(before, before, ours), before).None);
        var now = before with
        {
            Title = "Other",
            Labels = ["new"],
            Comments = [before.Comments[0] with { Text = "edited there" }],
        };
        var theirs = SharedTopic.InOurTerms(now, before, ours);
        Assert.Equal(("Other", ours.Stage), (theirs.Title, theirs.Stage));
        Assert.Equal([.. ours.Labels, "new"], theirs.Labels);
        Assert.Equal(("edited there", ours.Comments[0].Author), (theirs.Comments[0].Text, theirs.Comments[0].Author));
        // Sent is what differs; the rest goes back as it came.
        var sent = TopicChanges.Of(
            ours with
            {
                Status = "Closed",
            },
            SharedTopic.InOurTerms(before, before, ours),
            before
        );
        Assert.Equal(("Closed", "TITLE", null), (sent.Fields!.Status, sent.Fields.Title, sent.Fields.Stage));
        Assert.Empty(sent.Fields.Labels);
    }

    [Fact]
    public void What_both_changed_is_a_conflict_that_is_decided()
    {
        var common = TopicSamples.Full();
        var ours = With(t => t with { Status = "Closed", Title = "Ours" });
        var theirs = With(t => t with { Status = "Lost", Priority = "Low" });
        var kept = TopicMerge.Merge(ours, theirs, common);
        var conflict = Assert.Single(kept.Conflicts);
        Assert.Equal(("status", "Closed", "Lost"), (conflict.What, conflict.Ours, conflict.Theirs));
        var t = kept.Changed.Single();
        Assert.Equal(("Closed", "Ours", "Low"), (t.Status, t.Title, t.Priority));
        Assert.Equal("Lost", TopicMerge.Merge(ours, theirs, common, _ => true).Changed.Single().Status);
        // Nothing is known of what was before, and both were modified at the same time.
        Assert.Equal(["status", "title", "priority"], TopicMerge.Merge(ours, theirs).Conflicts.Select(c => c.What));
    }

    [Fact]
    public void What_one_side_removed_is_gone_only_where_the_common_file_is_known()
    {
        var without = With(t => t with { Labels = ["MEP"] });
        Assert.Equal(["Doors", "MEP"], TopicMerge.Merge(TopicSamples.Full(), without).Archive.Topics[0].Labels);
        Assert.Equal(
            ["MEP"],
            TopicMerge.Merge(TopicSamples.Full(), without, TopicSamples.Full()).Archive.Topics[0].Labels
        );
    }

    [Fact]
    public void Pictures_of_the_same_name_are_both_there()
    {
        byte[] other = [.. TopicSamples.Png, 9];
        var theirs = With(t =>
            t with
            {
                Viewpoints = [t.Viewpoints[0] with { Guid = "v-2" }],
                Parts = [TopicPart.Of("view.png", other), t.Parts[1]],
            }
        );
        var read = TopicSamples.Read(TopicSamples.Write(TopicMerge.Merge(TopicSamples.Full(), theirs).Archive));
        var views = read.Topics[0].Viewpoints;
        Assert.Equal(["view.png", "view-2.png"], views.Select(v => v.Snapshot));
        Assert.Equal(["view.bcfv", "view-2.bcfv"], views.Select(v => v.File));
        Assert.Equal(["view.png", "view-2.png"], views.Select(v => v.Info!.Bitmaps[0].Reference));
        Assert.Equal(other, read.Topics[0].Parts.Single(p => p.Name == "view-2.png").Bytes());
        Assert.Equal(TopicSamples.Png, read.Topics[0].Parts.Single(p => p.Name == "view.png").Bytes());
    }

    [Fact]
    public void Versions_meet_in_the_newer_one()
    {
        var result = TopicMerge.Merge(TopicSamples.Read(TopicSamples.File21()), TopicSamples.Full("Another"));
        Assert.Equal(TopicVersion.V30, result.Archive.Version);
        var read = TopicSamples.Read(TopicSamples.Write(result.Archive));
        Assert.Equal(2, read.Documents.Count);
        Assert.All(read.Documents, d => Assert.Contains(read.Parts, p => p.Name == $"documents/{d.Guid}"));
    }

    [Fact]
    public void A_file_that_went_through_2_1_and_back_changes_nothing()
    {
        byte[] two = TopicSamples.Write(TopicConversion.To(TopicSamples.Full(), TopicVersion.V21));
        var result = TopicMerge.Merge(TopicSamples.Full(), TopicSamples.Read(two));
        Assert.Empty(result.Conflicts);
        Assert.Empty(result.Changed);
        Assert.Single(result.Archive.Documents);
        Assert.Equal(["documents/doc-1"], result.Archive.Parts.Select(p => p.Name));
        var back = TopicMerge.Merge(TopicSamples.Read(two), TopicSamples.Full());
        Assert.Empty(back.Conflicts);
        Assert.Equal(1.6, back.Archive.Topics[0].Viewpoints[0].Info!.Perspective!.AspectRatio);
    }

    [Fact]
    public void Names_that_differ_in_case_only_are_one()
    {
        var twice = With(t =>
            t with
            {
                Comments =
                [
                    .. t.Comments,
                    t.Comments[0] with
                    {
                        Guid = t.Comments[0].Guid.ToUpperInvariant(),
                        Text = "Again",
                    },
                ],
                Viewpoints = [.. t.Viewpoints, t.Viewpoints[0] with { Guid = t.Viewpoints[0].Guid.ToUpperInvariant() }],
            }
        ) with
        {
            Documents = [new TopicDocument("doc-1", "a", null), new TopicDocument("DOC-1", "b", null)],
            Parts = [TopicPart.Of("documents/doc-1", [1]), TopicPart.Of("DOCUMENTS/doc-1", [2])],
        };
        Assert.Equal(2, TopicMerge.Merge(twice, twice, twice).Archive.Topics[0].Comments.Count);
        Assert.Single(TopicConversion.To(twice, TopicVersion.V21).Topics);
    }

    private static readonly string[] Words = ["red", "green", "blue"];

    // Each side changes what it likes of three topics, adds topics and comments.
    private static Gen<TopicArchive> Edited(string side) =>
        Gen.Select(Gen.Int[0, 3], Gen.Int[0, 3], Gen.Int[0, 2].Array[3], Gen.Bool.Array[3])
            .Select(
                (newTopics, newComments, word, touch) =>
                    TopicSamples.Full() with
                    {
                        Documents = [],
                        Parts = [],
                        Topics =
                        [
                            .. Three()
                                .Select(
                                    (t, i) =>
                                        !touch[i]
                                            ? t
                                            : t with
                                            {
                                                Status = Words[word[i]],
                                                Comments =
                                                [
                                                    .. t.Comments,
                                                    .. Enumerable
                                                        .Range(0, newComments)
                                                        .Select(n => new TopicComment
                                                        {
                                                            Guid = $"{side}-{i}-{n}",
                                                            Text = $"{side} says {n}",
                                                        }),
                                                ],
                                            }
                                ),
                            .. Enumerable
                                .Range(0, newTopics)
                                .Select(n => new Topic { Guid = $"{side}-{n}", Title = side }),
                        ],
                    }
            );

    private static IEnumerable<Topic> Three() =>
        Enumerable
            .Range(0, 3)
            .Select(i => new Topic
            {
                Guid = $"t-{i}",
                Title = $"Topic {i}",
                Status = "Open",
            });

    [Fact]
    public void Whatever_two_sides_do_no_word_is_lost()
    {
        Gen.Select(Edited("a"), Edited("b"))
            .Sample(
                (a, b) =>
                {
                    var common = a with { Topics = [.. Three()] };
                    var result = TopicMerge.Merge(a, b, common);
                    var merged = result.Archive.Topics.ToDictionary(t => t.Guid);
                    foreach (var t in a.Topics.Concat(b.Topics))
                        Assert.Empty(
                            t.Comments.Select(c => c.Text).Except(merged[t.Guid].Comments.Select(c => c.Text))
                        );
                    for (int i = 0; i < 3; i++)
                    {
                        string? ours = a.Topics[i].Status,
                            theirs = b.Topics[i].Status;
                        string? expected = ours == "Open" ? theirs : ours;
                        Assert.Equal(expected, merged[$"t-{i}"].Status);
                        bool both = ours != "Open" && theirs != "Open" && ours != theirs;
                        Assert.Equal(both, result.Conflicts.Any(c => c.Guid == $"t-{i}"));
                    }

                    // Merged again with either, nothing is new.
                    Assert.Empty(TopicMerge.Merge(result.Archive, b).Added);
                    Assert.Empty(TopicMerge.Merge(result.Archive, a).Added);
                },
                iter: 300
            );
    }
}
