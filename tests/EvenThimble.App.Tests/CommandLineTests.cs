using System.Collections.Immutable;
using System.Diagnostics;
using System.Text.Json;
using System.Text.RegularExpressions;
using EvenThimble.Browser.Tests;
using EvenThimble.Cli;
using EvenThimble.Core.Craft;
using EvenThimble.Core.Files.Stitch;
using EvenThimble.Core.Stitches;
using EvenThimble.Core.Tests;
using EvenThimble.Scenario;
using EvenThimble.Web.Workroom;
using Microsoft.Extensions.DependencyInjection;

namespace EvenThimble.App.Tests;

/// <summary>The command line, on real files in a folder of its own.</summary>
public sealed class CommandLineTests : IDisposable
{
    private const string Hill = "<svg xmlns='http://www.w3.org/2000/svg' width='96mm' height='96mm' viewBox='0 0 96 96'><path id='sky' fill='#26385e' d='M4 4h88v50q-40 20 -88 0z'/><path id='edge' d='M6 70q40 -24 84 0' stroke='#d9a520' stroke-width='5' fill='none'/></svg>";
    private static readonly (string Name, byte[] Bytes)[] Designs = [.. DemoDesigns.All.Select(d => ($"{Path.GetFileNameWithoutExtension(d.FileName)}.evth", StitchFormats.Write(StitchFileKind.Evth2, d.Drawn())))];
    private readonly string _folder = Directory.CreateTempSubdirectory("thimble-line-").FullName;
    private readonly StringWriter _says = new();
    private readonly StringWriter _errors = new();

    public CommandLineTests()
    {
        File.WriteAllText(Here("hill-by-night.svg"), Hill);
        foreach (var (name, bytes) in Designs) File.WriteAllBytes(Here(name), bytes);
    }

    public void Dispose() => Directory.Delete(_folder, recursive: true);

    [Fact]
    public async Task Stitch_writes_the_same_stitches_as_the_bench()
    {
        await using var server = await AppServer.StartAsync(demo: true);
        using var http = new HttpClient { BaseAddress = new(server.Address) };
        http.DefaultRequestHeaders.Add("X-Thimble-Token", Regex.Match(await http.GetStringAsync("/"), "thimble-token\" content=\"([^\"]+)").Groups[1].Value);
        var desk = server.Services.GetRequiredService<JobDesk>();
        async Task<string> Do(string address, params (string Name, string Value)[] values)
        {
            var form = values.Append(("version", $"{desk.Find(2)!.Stored.Version}")).Select(v => KeyValuePair.Create(v.Item1, v.Item2));
            var answer = await http.PostAsync(address, new FormUrlEncodedContent(form));
            return (await answer.EnsureSuccessStatusCode().Content.ReadAsStringAsync())!;
        }

        using var drawing = new MultipartFormDataContent { { new StringContent("1"), "version" }, { new ByteArrayContent(File.ReadAllBytes(Here("hill-by-night.svg"))), "file", "hill-by-night.svg" } };
        var laid = await (await http.PostAsync("/jobs/2/part/drawing", drawing)).Content.ReadAsStringAsync();
        await Do("/jobs/2/do/remove", ("parts", string.Join(',', desk.Find(2)!.Job.Order.Skip(1).Select(p => p.Id.Value))));
        var last = desk.Find(2)!.Job.Order[0].Id;
        var suggested = Regex.Matches(laid, "<option selected=\"selected\">([a-z ]+)</option>").Select(m => ("become", m.Groups[1].Value)).ToArray();
        suggested.Length.ShouldBe(2);
        await Do("/jobs/2/do/bring", [("token", Regex.Match(laid, "name=\"token\" value=\"([0-9a-f]+)\"").Groups[1].Value), ("width", "80"), .. suggested]);
        await Do("/jobs/2/do/remove", ("parts", $"{last.Value}"));
        await Do("/jobs/2/do/cloth", ("kind", ClothProfiles.All.Single(c => c.Name == "terry towel").Id));
        var bench = desk.Find(2)!;

        Run("stitch", Here("hill-by-night.svg"), "--width", "80", "--cloth", "terry towel", "-o", Here("hill.evth")).ShouldBe(0, _errors.ToString());
        var written = Read("hill.evth");
        var fromBench = StitchFormats.Read(StitchFormats.Write(StitchFileKind.Evth2, bench.Plan.ToFile("hill by night")), "bench.evth").File;
        written.Stitches.Hash.ShouldBe(fromBench.Stitches.Hash);
        written.Threads.Select(t => t.Label).ShouldBe(bench.Plan.Threads.Select(t => t.Label));
    }

    [Fact]
    public void Cut_writes_a_file_of_each_kind_for_the_pieces_of_a_design_or_drawing()
    {
        foreach (var ending in new[] { "svg", "dxf", "plt", "png", "pdf" })
        {
            Run("cut", Here("crescent-moon-applique.evth"), "--roles", "tack-down", "--allowance", "1.5", "--mirror", "--copies", "6", "--mat", "300x300", "--gap", "4", "-o", Here($"moon.{ending}")).ShouldBe(0, _errors.ToString());
            new FileInfo(Here($"moon.{ending}")).Length.ShouldBeGreaterThan(2_000);
        }

        Run("cut", Here("crescent-moon-applique.evth"), "--parts", "1,3", "-o", Here("in-place.svg"), "--json").ShouldBe(0, _errors.ToString());
        Core.Tests.Cutting.CutFileReaders.Svg(File.ReadAllBytes(Here("in-place.svg"))).Lines.Count.ShouldBe(2);
        Run("cut", Here("crescent-moon-applique.evth"), "--parts", "2,4", "--own-pieces", "-o", Here("own.svg")).ShouldBe(0, _errors.ToString());
        Run("cut", Here("comet-over-the-dome.evth"), "--around", "--allowance", "2", "-o", Here("patch.dxf")).ShouldBe(0, _errors.ToString());
        File.WriteAllText(Here("tag.svg"), "<svg xmlns='http://www.w3.org/2000/svg' width='60mm' height='40mm' viewBox='0 0 60 40'><rect x='5' y='5' width='50' height='30' rx='4' fill='#a33'/></svg>");
        Run("cut", Here("tag.svg"), "--parts", "1", "--allowance", "1", "-o", Here("tag.plt")).ShouldBe(0, _errors.ToString());
        _says.ToString().ShouldContain("52.0 × 32.0 mm");

        // What cannot be is told, and nothing is written.
        Run("cut", Here("dome-crest.evth"), "-o", Here("x.svg")).ShouldBe(1);
        _errors.ToString().ShouldContain("No part is for tack-down");
        Run("cut", Here("crescent-moon-applique.evth"), "--parts", "77", "-o", Here("x.svg")).ShouldBe(1);
        Run("cut", Here("crescent-moon-applique.evth"), "--parts", "2", "--allowance", "-3", "-o", Here("x.svg")).ShouldBe(1);
        Run("cut", Here("crescent-moon-applique.evth"), "--parts", "2", "--mat", "50x50", "-o", Here("x.svg")).ShouldBe(1);
        Run("cut", Here("crescent-moon-applique.evth"), "--parts", "two", "-o", Here("x.svg")).ShouldBe(2);
        Run("cut", Here("crescent-moon-applique.evth"), "--parts", "2", "-o", Here("x.doc")).ShouldBe(2);
        File.Exists(Here("x.svg")).ShouldBeFalse();
    }

    [Fact]
    public void Names_sews_a_roster_of_any_origin_and_tells_of_each_name()
    {
        var volunteers = new Names.Volunteers();
        var job = volunteers.Job(Names.Volunteers.TheTwelve);
        File.WriteAllBytes(Here("crest.evjob"), new Core.Files.Jobs.JobArchive(job, Core.Files.Jobs.JobDocument.StitchesOf(job).ToImmutableDictionary(h => h, volunteers.Get), [], null).ToBytes());
        File.WriteAllText(Here("liste.csv"), "Vorname;Nachname;Anzahl\nZoë;Müller;2\nOle;Ö;1\nנועה;כהן;1\n");
        Run("names", Here("crest.evjob"), "--roster", Here("liste.csv"), "--machine", "wren-130", "--files", "{nn}-{family}", "-o", Here("sewn"), "--json").ShouldBe(1, "a name that the font cannot write is no success");
        var names = JsonDocument.Parse(_says.ToString()).RootElement.GetProperty("files")[0].GetProperty("figures").GetProperty("names").EnumerateArray().ToList();
        names.Select(n => n.GetProperty("quantity").GetInt32()).ShouldBe([2, 1, 1]);
        names[2].GetProperty("slots")[0].GetProperty("flags")[0].GetString().ShouldBe("refused");
        var box = names[0].GetProperty("slots")[0].GetProperty("box");
        (box.GetProperty("rightMm").GetDouble() - box.GetProperty("leftMm").GetDouble()).ShouldBeLessThan(60.1);
        Directory.EnumerateFiles(Here("sewn")).Select(Path.GetFileName).Order().ShouldBe(["01-Muller.evth", "02-O.evth"]);
        _says.GetStringBuilder().Clear();
        Run("names", Here("crest.evjob"), "--machine", "starling-eight", "--heads", "8", "-o", Here("rounds")).ShouldBe(0, _errors.ToString());
        Directory.EnumerateFiles(Here("rounds")).Count().ShouldBe(2);
        _says.ToString().ShouldContain("look at 6 Marguerite-Anne Fothergill: too small for its font");
        Run("names", Here("crest.evjob"), "--machine", "wren-130", "--design-only", "-o", Here("design")).ShouldBe(0, _errors.ToString());
        Run("names", Here("crest.evjob"), "--machine", "wren-130", "--heads", "2", "-o", Here("x")).ShouldBe(1);
        Run("names", Here("crest.evjob"), "--names-only", "--design-only", "-o", Here("x")).ShouldBe(2);
        Run("names", Here("hill-by-night.svg"), "-o", Here("x")).ShouldBe(1);

        // A font that the job brings along is found by the name that it has there.
        var (file, slot) = (File.ReadAllBytes(Rendering.Fonts.InstalledFonts.Find("Bitter")!.Path!), job.Pieces.Single(p => p.Content is Core.Jobs.NameSlotContent));
        var content = (Core.Jobs.NameSlotContent)slot.Content;
        var own = new Core.Jobs.ChangeNameSlot(slot.Id, content with { Slot = content.Slot with { Font = Rendering.Fonts.FontFile.Read(file).FullName } }).Apply(job);
        File.WriteAllBytes(Here("own.evjob"), new Core.Files.Jobs.JobArchive(own, Core.Files.Jobs.JobDocument.StitchesOf(own).ToImmutableDictionary(h => h, volunteers.Get), [], null) { Fonts = [new("bitter.ttf", file)] }.ToBytes());
        Run("names", Here("own.evjob"), "--machine", "wren-130", "--names-only", "-o", Here("own")).ShouldBe(0, _errors.ToString());
        Directory.EnumerateFiles(Here("own")).Count().ShouldBe(12);
    }

    [Fact]
    public void What_is_asked_of_shapes_decides_their_stitches()
    {
        Run("stitch", Here("hill-by-night.svg"), "--width", "80", "--way", "run", "-o", Here("run.evth")).ShouldBe(0);
        Run("stitch", Here("hill-by-night.svg"), "--width", "80", "-o", Here("close.evth")).ShouldBe(0);
        Run("stitch", Here("hill-by-night.svg"), "--width", "80", "--spacing", "0.8", "--angle", "30", "-o", Here("wide.evth")).ShouldBe(0);
        var (run, close, wide) = (Read("run.evth").StitchCount, Read("close.evth").StitchCount, Read("wide.evth").StitchCount);
        run.ShouldBeLessThan(wide / 2);
        wide.ShouldBeLessThan(close * 2 / 3);
        Read("wide.evth").Bounds.Width.ShouldBe(88 * 80 / 96.0, 1.5);
    }

    [Fact]
    public void Every_kind_is_converted_by_its_ending_with_the_same_stitches()
    {
        var planet = Read("ringed-planet.evth");
        foreach (var ending in new[] { "csv", "svg", "gcode", "evth" })
        {
            Run("convert", Here("ringed-planet.evth"), "-o", Here($"there.{ending}")).ShouldBe(0, _errors.ToString());
            Run("convert", Here($"there.{ending}"), "-o", Here($"back-{ending}.evth"), "--revision", "1").ShouldBe(0, _errors.ToString());
            Read($"back-{ending}.evth").StitchCount.ShouldBe(planet.StitchCount, ending);
            Read($"back-{ending}.evth").Bounds.Width.ShouldBe(planet.Bounds.Width, 0.11, ending);
        }

        File.ReadAllBytes(Here("back-evth.evth")).Length.ShouldBeLessThan(File.ReadAllBytes(Here("there.evth")).Length);
    }

    [Fact]
    public void A_banner_is_divided_into_numbered_files_and_put_on_paper()
    {
        Run("split", Here("constellation-banner.evth"), "--machine", "heron-200", "--hoop", "130x300-long", "--crosses", "-o", Here("parts"), "--json").ShouldBe(0, _errors.ToString());
        var figures = JsonDocument.Parse(_says.ToString()).RootElement.GetProperty("files")[0].GetProperty("figures");
        figures.GetProperty("crossesMm").GetArrayLength().ShouldBe(2);
        var files = Directory.GetFiles(Here("parts")).Order().ToList();
        files.Select(Path.GetFileName).ShouldBe(["constellation-banner 1of2.evth", "constellation-banner 2of2.evth"]);
        var read = files.ConvertAll(f => StitchFormats.Read(File.ReadAllBytes(f), f).File);
        read.Select(f => f.Hoop!.Placement).ShouldBe([1, 3]);
        read.ShouldAllBe(f => f.Bounds.Width <= 130.1 && f.Bounds.Height <= 180.1 && f.Parts[0].Role == PartRole.RegistrationCross);
        read.Sum(f => f.StitchCount).ShouldBeGreaterThanOrEqualTo(Read("constellation-banner.evth").StitchCount);
        Run("split", Here("ringed-planet.evth"), "--machine", "heron-200", "-o", Here("parts")).ShouldBe(1);
        _errors.ToString().ShouldContain("nothing to divide");

        Run("template", Here("constellation-banner.evth"), "--machine", "heron-200", "--hoop", "130x300-long", "--paper", "letter", "-o", Here("t.pdf")).ShouldBe(0, _errors.ToString());
        Run("sheet", Here("ringed-planet.evth"), "-o", Here("s.pdf")).ShouldBe(0, _errors.ToString());
        using var template = UglyToad.PdfPig.PdfDocument.Open(File.ReadAllBytes(Here("t.pdf")));
        template.NumberOfPages.ShouldBe(2);
        using var sheet = UglyToad.PdfPig.PdfDocument.Open(File.ReadAllBytes(Here("s.pdf")));
        foreach (var thread in Read("ringed-planet.evth").Threads) sheet.GetPage(1).Text.ShouldContain(thread.Number);
    }

    [Fact]
    public void Many_files_go_into_a_folder_and_what_is_refused_stops_none_of_the_others()
    {
        File.WriteAllText(Here("broken.evth"), "no stitches at all");
        var inputs = Directory.GetFiles(_folder, "*.evth").Append(Here("never there.evth")).ToArray();
        Run(["convert", .. inputs, "--to", "csv", "-o", Here("tables"), "--json"]).ShouldBe(1);
        Directory.GetFiles(Here("tables")).Length.ShouldBe(DemoDesigns.All.Count);
        _errors.ToString().ShouldContain("never there.evth: There is no such file.");
        var told = JsonDocument.Parse(_says.ToString()).RootElement.GetProperty("files").EnumerateArray().ToList();
        told.Count.ShouldBe(inputs.Length);
        told.Count(f => f.GetProperty("refused").ValueKind == JsonValueKind.String && f.GetProperty("out").ValueKind == JsonValueKind.Null).ShouldBe(2);
        told.Where(f => f.GetProperty("refused").ValueKind == JsonValueKind.Null).ShouldAllBe(f => f.GetProperty("figures").GetProperty("stitches").GetInt32() > 100);
    }

    [Fact]
    public void What_is_there_already_stays_unless_it_is_forced()
    {
        File.WriteAllText(Here("kept.csv"), "mine");
        Run("convert", Here("ringed-planet.evth"), "-o", Here("kept.csv")).ShouldBe(1);
        _errors.ToString().ShouldContain("--force");
        File.ReadAllText(Here("kept.csv")).ShouldBe("mine");
        Run("convert", Here("ringed-planet.evth"), "-o", Here("kept.csv"), "--force").ShouldBe(0);
        File.ReadAllText(Here("kept.csv")).ShouldNotBe("mine");

        Directory.CreateDirectory(Here("other"));
        File.Copy(Here("ringed-planet.evth"), Here("other/ringed-planet.evth"));
        Run("convert", Here("ringed-planet.evth"), Here("other/ringed-planet.evth"), "-o", Here("both"), "--force").ShouldBe(1);
        _errors.ToString().ShouldContain("of the same name");
    }

    [Fact]
    public void Resizing_makes_stitches_anew_or_stretches_them()
    {
        var planet = Read("ringed-planet.evth");
        Run("resize", Here("ringed-planet.evth"), "--percent", "80", "-o", Here("less.evth")).ShouldBe(0);
        Run("resize", Here("ringed-planet.evth"), "--percent", "80", "--stretch", "-o", Here("same.evth")).ShouldBe(0);
        Run("resize", Here("ringed-planet.evth"), "--percent", "80", "--spacing-percent", "150", "-o", Here("light.evth")).ShouldBe(0);
        foreach (var name in new[] { "less.evth", "same.evth", "light.evth" }) Read(name).Bounds.Width.ShouldBe(planet.Bounds.Width * 0.8, 0.6, name);
        Math.Abs(Read("same.evth").StitchCount - planet.StitchCount).ShouldBeLessThan(planet.StitchCount / 50);
        Read("less.evth").StitchCount.ShouldBeLessThan(planet.StitchCount * 9 / 10);
        Read("light.evth").StitchCount.ShouldBeLessThan(Read("less.evth").StitchCount * 9 / 10);
    }

    [Fact]
    public void Merging_lays_designs_over_each_other_and_leaves_out_what_is_hidden()
    {
        var (dome, planet) = (Read("dome-crest.evth"), Read("ringed-planet.evth"));
        Run("merge", Here("dome-crest.evth"), Here("ringed-planet.evth"), "-o", Here("both.evth")).ShouldBe(0);
        Run("merge", Here("dome-crest.evth"), Here("ringed-planet.evth"), "--only-seen", "-o", Here("seen.evth")).ShouldBe(0);
        var both = Read("both.evth");
        Math.Abs(both.StitchCount - dome.StitchCount - planet.StitchCount).ShouldBeLessThan(40);
        both.Bounds.Width.ShouldBe(Math.Max(dome.Bounds.MaxX, planet.Bounds.MaxX) - Math.Min(dome.Bounds.MinX, planet.Bounds.MinX), 0.01);
        Read("seen.evth").StitchCount.ShouldBeLessThan(both.StitchCount - 100);
    }

    [Fact]
    public void A_check_tells_what_the_machine_makes_of_it_and_trouble_is_a_refusal()
    {
        Run("check", Here("ringed-planet.evth"), "--machine", "heron-200").ShouldBe(0, _says.ToString());
        _says.ToString().ShouldContain("Heron 200");
        Run("resize", Here("ringed-planet.evth"), "--percent", "300", "-o", Here("huge.evth")).ShouldBe(0, _errors.ToString());
        _says.GetStringBuilder().Clear();
        Run("check", Here("huge.evth"), "--machine", "heron-200", "--hoop", "130x180", "--json").ShouldBe(1);
        var figures = JsonDocument.Parse(_says.ToString()).RootElement.GetProperty("files")[0].GetProperty("figures");
        figures.GetProperty("ready").GetBoolean().ShouldBeFalse();
        figures.GetProperty("findings").EnumerateArray().ShouldContain(f => f.GetProperty("level").GetString() == "trouble" && f.GetProperty("says").GetString()!.Length > 20);
    }

    [Fact]
    public void Threads_tells_what_each_is_sewn_with_how_much_and_what_is_missing()
    {
        var planet = Read("ringed-planet.evth");
        var chart = Core.Threads.MadeUpCharts.All[2].Threads;
        File.WriteAllText(Here("rack.csv"), "Number;Maker;Cones;Left\n" + string.Join('\n', chart.Where((_, n) => n % 7 == 0).Select(t => $"{t.Number};{t.Maker};1;9 m")) + "\n77;Nobody;1;\n");
        Run("threads", Here("ringed-planet.evth"), "--rack", Here("rack.csv"), "--copies", "6", "--json").ShouldBe(0, _errors.ToString());
        var figures = JsonDocument.Parse(_says.ToString()).RootElement.GetProperty("files")[0].GetProperty("figures");
        var threads = figures.GetProperty("threads").EnumerateArray().ToList();
        threads.Select(t => t.GetProperty("number").GetString()).ShouldBe(planet.Threads.Select(t => t.Number));
        threads.Select(t => t.GetProperty("match").GetProperty("number").GetString()).Distinct().Count().ShouldBe(threads.Count, "a cone for each");
        foreach (var thread in threads)
        {
            var (match, next) = (thread.GetProperty("match"), thread.GetProperty("next").EnumerateArray().ToList());
            next.Count.ShouldBe(5);
            match.GetProperty("maker").GetString().ShouldBe(chart[0].Maker);
            match.GetProperty("says").GetString()!.Length.ShouldBeGreaterThan(4);
            thread.GetProperty("topMetres").GetDouble().ShouldBeGreaterThan(1);
        }

        var fetch = figures.GetProperty("fetch").EnumerateArray().ToList();
        fetch.Sum(f => f.GetProperty("topMetres").GetDouble()).ShouldBe(threads.Sum(t => t.GetProperty("topMetres").GetDouble()), 0.01);
        foreach (var line in fetch.Where(f => f.GetProperty("missingMetres").GetDouble() > 0))
        {
            line.GetProperty("missingMetres").GetDouble().ShouldBe(line.GetProperty("topMetres").GetDouble() - 9, 0.002);
            line.GetProperty("runsOut").GetProperty("copy").GetInt32().ShouldBe(1 + (int)(9 / (line.GetProperty("topMetres").GetDouble() / 6)));
        }

        fetch.ShouldContain(f => f.GetProperty("missingMetres").GetDouble() > 0);
        figures.GetProperty("rackAside")[0].GetProperty("why").GetString().ShouldBe("No chart has the number 77 of Nobody.");
        Run("threads", Here("ringed-planet.evth"), "--rack", Here("nowhere.csv")).ShouldBe(1);
        _errors.ToString().ShouldContain("There is no such file");
    }

    [Fact]
    public void A_picture_is_as_large_as_it_is_asked_to_be()
    {
        var planet = Read("ringed-planet.evth");
        Run("picture", Here("ringed-planet.evth"), "-o", Here("thread.png"), "--px-per-mm", "6", "--cloth", "denim").ShouldBe(0, _errors.ToString());
        Run("picture", Here("ringed-planet.evth"), "-o", Here("lines.png"), "--px-per-mm", "6", "--lines").ShouldBe(0, _errors.ToString());
        var png = File.ReadAllBytes(Here("thread.png"));
        ((double)System.Buffers.Binary.BinaryPrimitives.ReadInt32BigEndian(png.AsSpan(16))).ShouldBe((planet.Bounds.Width + 4) * 6, 2);
        png.ShouldNotBe(File.ReadAllBytes(Here("lines.png")));
    }

    [Theory]
    [InlineData("stitch hill-by-night.svg -o out.evth", "--width")]
    [InlineData("stitch hill-by-night.svg --width 90 --cloth chainmail -o out.evth", "no cloth")]
    [InlineData("stitch hill-by-night.svg --width 90 --way knit -o out.evth", "knit")]
    [InlineData("convert ringed-planet.evth -o out.docx", "no ending of a stitch file")]
    [InlineData("convert ringed-planet.evth -o out.evth --revision 3", "revisions 1 and 2")]
    [InlineData("convert -o out.evth", "in")]
    [InlineData("stitch hill-by-night.svg --width wide -o out.evth", "“wide” is not a number.")]
    [InlineData("merge ringed-planet.evth -o out.evth", "two files")]
    [InlineData("check ringed-planet.evth --machine loom", "heron-200")]
    [InlineData("check ringed-planet.evth --machine heron-200 --hoop 9x9", "no hoop")]
    [InlineData("resize ringed-planet.evth --percent 80 --stretch --spacing-percent 90 -o out.evth", "either")]
    [InlineData("picture ringed-planet.evth --px-per-mm 100000 -o out.png", "pixels to the millimetre")]
    [InlineData("threads ringed-planet.evth", "--rack")]
    [InlineData("threads ringed-planet.evth --rack rack.csv --copies 0", "1 to 10,000 times")]
    [InlineData("split ringed-planet.evth -o parts.d", "--machine")]
    [InlineData("split ringed-planet.evth --hoop 9x9 -o parts.d", "--machine")]
    [InlineData("template ringed-planet.evth --paper a9 -o out.pdf", "A4 and Letter")]
    [InlineData("sheet ringed-planet.evth -o out.png", "ends in .pdf")]
    [InlineData("knit ringed-planet.evth", "knit")]
    public void What_is_written_wrongly_is_told_and_does_nothing(string line, string says)
    {
        var before = Directory.GetFiles(_folder).Length;
        Run([.. line.Split(' ').Select(w => w.Contains('.') && !w.StartsWith('-') ? Here(w) : w)]).ShouldBe(2);
        _errors.ToString().ShouldContain(says);
        Directory.GetFiles(_folder).Length.ShouldBe(before);
    }

    [Theory]
    [InlineData("stitch hill-by-night.svg --width 9000 -o out.evth", "not a width")]
    [InlineData("stitch ringed-planet.evth --width 90 -o out.evth", "ringed-planet.evth: ")]
    [InlineData("stitch hill-by-night.svg --width 90 --spacing 44 -o out.evth", "can be from")]
    [InlineData("resize ringed-planet.evth --percent 0 -o out.evth", "ringed-planet.evth: ")]
    [InlineData("convert hill-by-night.svg -o out.evth", "hill-by-night.svg: ")]
    public void What_cannot_be_done_is_refused_in_a_sentence_and_writes_nothing(string line, string says)
    {
        var before = Directory.GetFiles(_folder).Length;
        Run([.. line.Split(' ').Select(w => w.Contains('.') && !w.StartsWith('-') ? Here(w) : w)]).ShouldBe(1, _says.ToString());
        _errors.ToString().ShouldContain(says);
        Directory.GetFiles(_folder).Length.ShouldBe(before);
    }

    [Fact]
    public void The_program_itself_answers_with_its_exit_code()
    {
        Program("convert", Here("ringed-planet.evth"), "-o", Here("p.csv")).ShouldBe(0);
        File.Exists(Here("p.csv")).ShouldBeTrue();
        Program("convert", Here("ringed-planet.evth"), "-o", Here("p.csv")).ShouldBe(1);
        Program("convert", Here("ringed-planet.evth")).ShouldBe(2);
        Program("--help").ShouldBe(0);
    }

    [Fact]
    public void The_launcher_names_every_command_and_passes_on_whatever_is_not_its_own()
    {
        Run("--help").ShouldBe(0);
        var commands = Regex.Matches(_says.ToString()[_says.ToString().IndexOf("Commands:", StringComparison.Ordinal)..], @"^  ([a-z]+)", RegexOptions.Multiline).Select(m => m.Groups[1].Value).ToList();
        commands.Count.ShouldBeGreaterThan(12);
        var launcher = File.ReadAllText(Path.Combine(RoomUses.Top(), "even-thimble"));
        var usage = launcher[launcher.IndexOf("usage() {", StringComparison.Ordinal)..launcher.IndexOf("\n}", StringComparison.Ordinal)];
        foreach (var command in commands) Regex.IsMatch(usage, $@"[ |]{command}[ |]").ShouldBeTrue($"the launcher tells of {command}");
        launcher.ShouldContain("*) run_cli \"$@\" ;;");
        Run("cut", "--help").ShouldBe(0);
        _says.ToString().ShouldContain("even-thimble cut <");
    }

    private static int Program(params string[] args)
    {
        using var process = Process.Start(new ProcessStartInfo("dotnet", [typeof(CommandLine).Assembly.Location, .. args]) { RedirectStandardOutput = true, RedirectStandardError = true })!;
        process.StandardOutput.ReadToEnd();
        process.WaitForExit();
        return process.ExitCode;
    }

    private int Run(params string[] args) => CommandLine.Run(args, _says, _errors);

    private StitchFile Read(string name) => StitchFormats.Read(File.ReadAllBytes(Here(name)), name).File;

    private string Here(string name) => Path.Combine(_folder, name);
}
