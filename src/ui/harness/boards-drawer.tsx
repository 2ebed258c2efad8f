'use client'
import { BoardForm } from './board-form'
import { BoardLoading } from './board-loading'
import { ExpanderList } from './expander-list'
import { SupplyList } from './supply-list'

/** Boards with what they hold and what is spare, expanders and supplies with their load. */
export const BoardsDrawer = () => (
  <div className="text-[12px]">
    <BoardLoading />
    <BoardForm />
    <ExpanderList />
    <SupplyList />
  </div>
)
