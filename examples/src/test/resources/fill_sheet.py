"""Fills in a sheet of a review as a person would in a spreadsheet, and saves it.

Usage: fill_sheet.py SHEET.xlsx FILLED.xlsx PROFILE. The first rows are decided: take away, keep, keep
until a day that is typed as a date. A column is added and one is moved, as people do.
"""

import socket
import subprocess
import sys
import time

import uno
from com.sun.star.beans import PropertyValue
from com.sun.star.connection import NoConnectException


def prop(name, value):
    one = PropertyValue()
    one.Name, one.Value = name, value
    return one


def url(path):
    return uno.systemPathToFileUrl(path)


def connect(port):
    local = uno.getComponentContext()
    resolver = local.ServiceManager.createInstanceWithContext("com.sun.star.bridge.UnoUrlResolver", local)
    for _ in range(240):
        try:
            return resolver.resolve(f"uno:socket,host=127.0.0.1,port={port};urp;StarOffice.ComponentContext")
        except NoConnectException:
            time.sleep(0.25)
    sys.exit("the spreadsheet did not start")


def main(source, target, profile):
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    office = subprocess.Popen(
        [
            "/usr/bin/soffice",
            "--headless",
            "--norestore",
            f"-env:UserInstallation={url(profile)}",
            f"--accept=socket,host=127.0.0.1,port={port};urp;",
        ]
    )
    try:
        context = connect(port)
        desktop = context.ServiceManager.createInstanceWithContext("com.sun.star.frame.Desktop", context)
        book = desktop.loadComponentFromURL(url(source), "_blank", 0, (prop("Hidden", True),))
        sheet = next(s for s in (book.Sheets.getByIndex(i) for i in range(book.Sheets.Count)) if s.getCellByPosition(0, 0).String == "row")
        heads = {}
        column = 0
        while sheet.getCellByPosition(column, 0).String:
            heads[sheet.getCellByPosition(column, 0).String] = column
            column += 1
        sheet.getCellByPosition(column, 0).String = "my own notes"
        sheet.getCellByPosition(column, 1).String = "ask about this"
        # Typed as a person types it: the program makes a date of the day.
        sheet.getCellByPosition(heads["decision"], 1).setFormula("take away")
        sheet.getCellByPosition(heads["decision"], 2).setFormula("keep")
        sheet.getCellByPosition(heads["decision"], 3).setFormula("keep until")
        sheet.getCellByPosition(heads["until"], 3).setFormula("2027-01-31")
        if sheet.getCellByPosition(heads["until"], 3).Value == 0:
            sys.exit("the day was not taken for a day")
        book.storeToURL(url(target), (prop("FilterName", "Calc MS Excel 2007 XML"),))
        book.close(True)
        desktop.terminate()
    finally:
        office.wait(30)


if __name__ == "__main__":
    main(*sys.argv[1:4])
