using System.Text;
using System.Text.Json;
using System.Text.Json.Nodes;
using SteadyLintel.Exchange;

namespace SteadyLintel.Tests;

/// <summary>Documents and tables of strangers, damaged the way that breaks readers: each is read, and read again the same, or refused with
/// a sentence.</summary>
public class DocumentFuzzTests
{
    // 400 of each as a rule; LINTEL_FUZZ=10000 for a long run.
    private static readonly int Rounds = int.TryParse(Environment.GetEnvironmentVariable("LINTEL_FUZZ"), out int n)
        ? n
        : 400;

    private static readonly Dictionary<string, (string Seed, Func<string, string> ReadAndWrite)> Documents = new()
    {
        ["order"] = (
            """
            {"version":1,"to":"SRV, workshop","sources":["a","b"],"into":{"file":"dwg","as":"section","version":"AC1024","lines":[{"name":"A","from":[0,1],"to":[2,3]}],"sheet":{"paper":"A1","scale":100}},
             "rules":[{"do":"only","what":"class","are":["IfcWall","IfcDoor.DOOR"]},{"do":"without","what":"property","key":"Set.P","is":"between","are":["1","2"]},{"do":"with","what":"size","are":["","1.5"]}],
             "unit":"mm","frame":"1,2,3,15","split":"storey+party","tables":{"layers":"L"},"properties":{"list":"P","blanks":"out","computed":true,"table":"csv"},"name":"{job}-{storey}"}
            """,
            json =>
            {
                var document = OrderDocument.Read(json);
                try
                {
                    document.ToOrder(OrderLibrary.Empty);
                }
                catch (OrderException)
                {
                    // Readable, and asks for what cannot be.
                }

                return document.Write();
            }
        ),
        ["set"] = (
            """{"version":1,"rules":[{"do":"with","what":"element","are":["0000000000000000000020","1000000000000000000021"]}]}""",
            json => SetDocument.Read(json).Write()
        ),
        ["view"] = (
            """{"version":1,"cut":[-1,3],"off":{"class":["IfcSpace"],"storey":["Two"]},"hidden":["0000000000000000000021"],"eye":[1,2,3],"at":[4,5,6]}""",
            json => ViewDocument.Read(json).Write()
        ),
        ["preparation"] = (
            """{"version":1,"steps":[{"do":"window","corners":[[0,0],[10,10]]},{"do":"drop","layers":["A"]},{"do":"move","handles":["1F"],"by":[1,2]},{"do":"turn","handles":["1F"],"at":[0,0],"degrees":30},{"do":"text","handles":["1F"],"to":"x"}]}""",
            json => PreparationDocument.Read(json).Write()
        ),
        ["setting-out"] = (
            """{"version":1,"shift":[1,2,3],"turnDegrees":30,"scale":1,"evidence":"points","points":[{"name":"a","source":[0,0,0],"job":[1,2,3]}],"why":"so"}""",
            json => SettingOutDocument.Read(json).Write()
        ),
        ["levels"] = (
            """{"version":1,"levels":[{"id":1,"name":"One","elevation":0,"byHand":true}],"matches":[{"source":"s","storey":"One","level":1,"byHand":true}],"offsets":[{"source":"s","storey":"","offset":-0.12}]}""",
            json => LevelDocument.Read(json).Write()
        ),
    };

    public static TheoryData<string> Kinds => [.. Documents.Keys];

    [Theory]
    [MemberData(nameof(Kinds))]
    public void Damaged_documents_are_read_or_refused(string kind)
    {
        var (seed, readAndWrite) = Documents[kind];
        readAndWrite(seed);
        int read = 0;
        for (int round = 0; round < Rounds; round++)
        {
            string json = Damaged(seed, new Random(round));
            try
            {
                string written = readAndWrite(json);
                Assert.Equal(written, readAndWrite(written));
                read++;
            }
            catch (OrderException e)
            {
                Assert.EndsWith(".", e.Message, StringComparison.Ordinal);
            }
            catch (Exception e) when (e is not Xunit.Sdk.XunitException)
            {
                Assert.Fail($"round {round}: {json[..Math.Min(json.Length, 900)]}\n{e}");
            }
        }

        Assert.InRange(read, 1, Rounds - 1);
    }

    private static readonly Dictionary<string, (string Seed, Action<TableRows> Read)> Tables = new()
    {
        ["classes"] = (
            "class,predefined type,property,value,to\nIfcWall,,Set.A,*x,IfcCovering\nIfcDoor,,,,do not send\n*,,,,IfcBuildingElementProxy\n",
            t => ClassTable.Read(t)
        ),
        ["layers"] = ("class,layer,colour,line type,weight\nIfcWall,W,1,DASHED,0.35\n*,X,#80c040,,\n", t =>
            LayerTable.Read(t)
        ),
        ["names"] = ("kind,from,to\nstorey,One,01\nmaterial,Brick,M1\n", t => NameTable.Read(t)),
        ["properties"] = (
            "set,property,as set,as,blanks,unit\nSet,Pressure,Mine,Bar,,\nPset_*,*,,,out,\nSet,Length,,,,in\n",
            t => PropertyList.Read(t)
        ),
    };

    public static TheoryData<string, bool> TableKinds
    {
        get
        {
            var kinds = new TheoryData<string, bool>();
            foreach (string kind in Tables.Keys)
            {
                kinds.Add(kind, false);
                kinds.Add(kind, true);
            }

            return kinds;
        }
    }

    [Theory]
    [MemberData(nameof(TableKinds))]
    public void Damaged_tables_are_read_or_refused(string kind, bool workbook)
    {
        var (text, read) = Tables[kind];
        byte[] seed = Encoding.UTF8.GetBytes(text);
        if (workbook)
        {
            var rows = TableFile.Read(seed);
            seed = TableFile.WriteXlsx(
                [
                    [.. rows.Headings],
                    .. rows.Rows.Select(r => (IReadOnlyList<object?>)[.. r.Cells]),
                ],
                kind
            );
        }

        read(TableFile.Read(seed));
        int taken = 0;
        for (int round = 0; round < Rounds; round++)
        {
            byte[] bytes = Damaged(seed, new Random(round), workbook);
            try
            {
                read(TableFile.Read(bytes));
                taken++;
            }
            catch (OrderException)
            {
                // A table that cannot be meant: TableException is one.
            }
            catch (Exception e) when (e is not Xunit.Sdk.XunitException)
            {
                Assert.Fail($"round {round}: {Encoding.Latin1.GetString(bytes)[..Math.Min(bytes.Length, 600)]}\n{e}");
            }
        }

        Assert.InRange(taken, 1, Rounds);
    }

    private static string Damaged(string json, Random random)
    {
        if (random.Next(6) == 0)
            return Encoding.UTF8.GetString(Damaged(Encoding.UTF8.GetBytes(json), random, false));
        var root = JsonNode.Parse(json)!;
        for (int n = random.Next(1, 4); n > 0; n--)
        {
            var all = Within(root).ToList();
            if (all.Count == 0)
                break;
            var (parent, key, index) = all[random.Next(all.Count)];
            var other = Other(random, all);
            if (parent is JsonObject o && random.Next(4) == 0)
                o.Remove(key!);
            else if (parent is JsonObject o2)
                o2[key!] = other;
            else if (parent is JsonArray a && random.Next(4) == 0)
                a.RemoveAt(index);
            else
                ((JsonArray)parent)[index] = other;
        }

        return root.ToJsonString();
    }

    private static IEnumerable<(JsonNode Parent, string? Key, int Index)> Within(JsonNode node)
    {
        if (node is JsonObject o)
        {
            foreach (var (key, value) in o.ToList())
            {
                yield return (o, key, -1);
                if (value is not null)
                    foreach (var inner in Within(value))
                        yield return inner;
            }
        }
        else if (node is JsonArray a)
        {
            for (int n = 0; n < a.Count; n++)
            {
                yield return (a, null, n);
                if (a[n] is { } value)
                    foreach (var inner in Within(value))
                        yield return inner;
            }
        }
    }

    private static JsonNode? Other(Random random, List<(JsonNode Parent, string? Key, int Index)> all)
    {
        switch (random.Next(10))
        {
            case 0:
                return null;
            case 1:
                return JsonValue.Create(1e308);
            case 2:
                return JsonValue.Create(-1);
            case 3:
                return JsonValue.Create("");
            case 4:
                return JsonValue.Create(new string('x', random.Next(1, 100_000)));
            case 5:
                return new JsonArray([
                    .. Enumerable.Range(0, random.Next(200)).Select(n => (JsonNode)JsonValue.Create(n)),
                ]);
            case 6:
                return new JsonObject { ["do"] = "only", ["odd"] = new JsonArray(new JsonArray(new JsonArray())) };
            case 7:
                return JsonValue.Create("\0\ud83d");
            case 8:
                return JsonValue.Create(true);
            default:
                var (parent, key, index) = all[random.Next(all.Count)];
                return (key is null ? ((JsonArray)parent)[index] : parent[key])?.DeepClone();
        }
    }

    private static byte[] Damaged(byte[] seed, Random random, bool sparing)
    {
        var bytes = seed.ToList();
        for (int n = random.Next(1, sparing ? 4 : 9); n > 0 && bytes.Count > 1; n--)
        {
            int at = random.Next(bytes.Count);
            switch (random.Next(5))
            {
                case 0:
                    bytes[at] = (byte)random.Next(256);
                    break;
                case 1:
                    bytes[at] ^= (byte)(1 << random.Next(8));
                    break;
                case 2:
                    bytes.RemoveRange(at, Math.Min(random.Next(1, 30), bytes.Count - at));
                    break;
                case 3:
                    bytes.InsertRange(at, bytes.GetRange(at, Math.Min(random.Next(1, 60), bytes.Count - at)));
                    break;
                default:
                    bytes.InsertRange(at, ",,\"\n;\t\0"u8.ToArray()[..random.Next(1, 7)]);
                    break;
            }
        }

        return [.. bytes];
    }
}
