using System.Text;
using SteadyLintel.Demo;
using SteadyLintel.Exchange;
using SteadyLintel.Web;

namespace SteadyLintel.Tests;

/// <summary>A target that nobody but this test knows works everywhere once it is registered.</summary>
public class NewTargetTests
{
    /// <summary>A file of GlobalIds, a line each.</summary>
    private sealed class IdList : Target
    {
        public override string Family => "lists";

        public override IReadOnlyDictionary<string, string> Files =>
            new Dictionary<string, string> { ["ids"] = ".txt" };

        public override IReadOnlyList<FormChoice> Choices =>
            [new("ids", "List of GlobalIds", "Lists", "a list of GlobalIds", new OrderInto { File = "ids" })];

        public override FormOptions Takes => FormOptions.None;

        public override string? CannotHold(bool shaped, bool drawn) => null;

        internal override IReadOnlyList<WrittenFile> Write(
            HandoverPlan plan,
            FileNames names,
            string timeStamp,
            IFileSet files,
            Reconciler reconciler,
            CancellationToken cancel
        )
        {
            var written = new List<WrittenFile>();
            foreach (var group in FileGroups.Of(plan, false))
            {
                WrittenElement[] elements =
                [
                    .. group.Parts.SelectMany(p =>
                        p.Elements.Select(e => new WrittenElement(p.Source, e, 0, e.GlobalId))
                    ),
                ];
                string name = names.Next(group.Name, ".txt");
                using (var stream = files.Create(name))
                    stream.Write(Encoding.UTF8.GetBytes(string.Join('\n', elements.Select(e => e.GlobalId))));
                written.Add(new WrittenFile(name, elements, [], new MadeInstances()));
            }

            return written;
        }

        internal override ILedger NewLedger(HandoverPlan plan) => new IdLedger();
    }

    private sealed class IdLedger : ILedger
    {
        private readonly LedgerTally _tally = new();

        public IEnumerable<ReconciliationCheck> Checks => [];

        public IReadOnlyList<string> Differences => [];

        public void Read(WrittenFile file, ReadOnlyMemory<byte> bytes, Reconciler rows, CancellationToken cancel)
        {
            var found = Encoding.UTF8.GetString(bytes.Span).Split('\n').ToHashSet();
            foreach (var element in file.Elements.Where(e => found.Contains(e.GlobalId)))
            {
                rows.Find(element.Source, element.Element);
                _tally.Add(element.Element.Class, LedgerAccount.Changed, "as a line", () => element.GlobalId);
            }
        }

        public IReadOnlyList<LedgerLine> Lines() => _tally.Lines();
    }

    [Fact]
    public void It_is_read_offered_previewed_and_run_without_another_line()
    {
        if (FileForm.Choice("ids") is null)
            FileForm.Add(new IdList());
        // The reader, the terminal's list of words and the page.
        var order = OrderDocument.Read("""{"into":{"file":"ids"},"split":"storey","name":"{storey}"}""").ToOrder();
        Assert.IsType<IdList>(Target.Of(order));
        Assert.Contains("ids", OrderOptions.File.Listed);
        Assert.Contains("ids", OrderWords.Forms);
        Assert.Equal(
            ("List of GlobalIds", "Lists", "a list of GlobalIds"),
            (OrderWords.FormFile("ids"), OrderWords.FormContent("ids"), OrderWords.FormName("ids"))
        );
        Assert.Equal(
            "ids",
            new OrderSentence { Form = "ids" }
                .In(new OrderDocument())
                .Into.File
        );
        // Options that it does not take are refused without its saying so.
        Assert.Contains(
            "go with IFC",
            Assert
                .Throws<OrderException>(() =>
                    OrderDocument.Read("""{"into":{"file":"ids","schema":"IFC4"}}""").ToOrder()
                )
                .Message
        );
        // The run: written, read again, balanced.
        using var bytes = new MemoryStream();
        HeronWharf.Models.First(m => m.Party == "STR").Write(bytes);
        using var folder = new TemporaryFiles();
        var result = HandoverRunner.Run(
            new HandoverRun(order, [new HandoverSource("STR", "STR", ModelSnapshot.Open(bytes.ToArray()))], folder)
            {
                Job = "HW",
                TimeStamp = "2026-01-01T00:00:00",
            }
        );
        Assert.True(result.Balanced);
        Assert.True(result.Files.Count > 1);
        Assert.All(result.Files, f => Assert.EndsWith(".txt", f.Name));
    }

    private sealed class TemporaryFiles : IFileSet, IDisposable
    {
        private readonly Dictionary<string, MemoryStream> _files = [];

        public Stream Create(string name) => _files[name] = new MemoryStream();

        public ReadOnlyMemory<byte> Read(string name) => _files[name].ToArray();

        public void Dispose() => _files.Clear();
    }
}
